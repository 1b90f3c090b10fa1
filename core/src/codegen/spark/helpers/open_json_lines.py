import json
import os
from urllib.parse import unquote

import pandas as pd
from pyspark.sql import types as T

from .column import ListText
from .flat_record import flat
from .in_batches import in_batches
from .shown import shown
from .stop import stop
from .table_names import known_names
from .text_lines import by_source, lines_of
from .typed_cells import typed


def records(lines):
    """The records of lines of JSON, blank ones left out."""
    for line in lines:
        text = line.decode("utf-8").lstrip("\ufeff").strip()
        if text:
            record = json.loads(text)
            if not isinstance(record, dict):
                raise ValueError("not a record")
            yield flat(record)


def keys_of(batches):
    """Of each block the names of its columns in order, which of them hold lists alone, and whether all its lines are records."""
    for file, block, lines in by_source(batches, False):
        keys, valid = {}, True
        try:
            for row in records(lines):
                for key, value in row.items():
                    keys[key] = keys.get(key, True) and (value is None or isinstance(value, ListText))
        except ValueError:
            valid = False
        yield pd.DataFrame(
            {
                "file": [file],
                "block": [block],
                "keys": [list(keys)],
                "lists": [[key for key, is_list in keys.items() if is_list]],
                "valid": [valid],
            }
        )


def open_json_lines(paths, types, decimal, group, file_column, sheet_column, known):
    """Lines of JSON, a record each; what is nested becomes columns a.b, lists stay JSON."""
    df = lines_of(paths, "utf-8")
    seen = sorted(
        in_batches(
            df, keys_of, "file string, block long, keys array<string>, lists array<string>, valid boolean"
        ).collect(),
        key=lambda row: (row["file"], row["block"]),
    )
    if not all(row["valid"] for row in seen):
        stop(
            4,
            "A file of JSON does not have a record on each line. Make CSV of it first: fabula csv RECIPE --input … --to DIR.",
        )
    keys = list(dict.fromkeys(key for row in seen for key in row["keys"]))
    lists = {key for key in keys if all(key in row["lists"] or key not in row["keys"] for row in seen)}
    numbers = {file: i for i, file in enumerate(dict.fromkeys(row["file"] for row in seen))}
    last = [c for c in (file_column, sheet_column) if c]
    columns = [f"t{i}" for i in range(len(keys) + len(last))]

    def text_of_value(value):
        return "" if value is None else value if isinstance(value, str) else shown(value)

    def run(batches):
        for file, block, lines in by_source(batches, False):
            base = unquote(os.path.basename(file.split(" ", 1)[1]))
            beside = [base if name == file_column else "" for name in last]
            rows = [[text_of_value(row.get(key)) for key in keys] + beside for row in records(lines)]
            made = pd.DataFrame(rows, columns=columns, dtype=object)
            made.insert(0, "_row", [f"{numbers[file]:04x}{block:012x}{n:010x}" for n in range(len(rows))])
            yield made

    schema = T.StructType([T.StructField(name, T.StringType()) for name in ["_row", *columns]])
    names = known_names(list(keys), known)
    return typed(
        in_batches(df.select("file", "block", "value"), run, schema),
        names,
        last,
        types,
        decimal,
        group,
        [name for name, key in zip(names, keys) if key in lists],
    )
