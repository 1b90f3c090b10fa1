import os

from .corner import corner
from .open_json_lines import open_json_lines
from .open_parquet import open_parquet
from .stop import stop
from .table_names import known_names, names_for
from .text_lines import head_of, lines_of, look, parsed, widest
from .typed_cells import typed


def open_csv(
    paths,
    encoding=None,
    delimiter=None,
    quote='"',
    header=1,
    skip=0,
    footer=0,
    area=None,
    types="detect",
    decimal=".",
    group=",",
    file_column=None,
    sheet_column=None,
    known=None,
):
    """Files with one table, stacked by column name; rows are counted as seen, blank rows leave.

    Lines are parted among tasks where no record goes over lines, else each file is read by one.
    """
    endings = {os.path.splitext(path.rstrip("/"))[1].lower() for path in paths}
    if endings & {".xlsx", ".xlsm", ".ods"}:
        stop(4, "Spark reads no workbooks. Make CSV of it first: fabula csv RECIPE --input … --to DIR.")
    if endings == {".parquet"}:
        return open_parquet(paths, types, decimal, group, file_column, sheet_column, known or {})
    if endings <= {".jsonl", ".ndjson", ".json"} and endings:
        return open_json_lines(paths, types, decimal, group, file_column, sheet_column, known or {})
    df = lines_of(paths, encoding or "utf-8")
    tops = [] if header is None else header if isinstance(header, list) else [header]
    below = max(tops + [0])
    looks, firsts = look(df, encoding, delimiter, quote, below + skip + (corner(area.split(":")[0])[1] if area else 0))
    if any(how["encoding"].startswith("utf-16") for how in looks.values()) and not (encoding or "").startswith(
        "utf-16"
    ):
        stop(
            4,
            "A file is written in UTF-16. Say so where it is opened, or make CSV of it first: fabula csv RECIPE --input … --to DIR.",
        )
    whole = footer > 0 or area is not None or any(how["open"] for how in looks.values())
    files = sorted(looks)
    widths = widest(df, looks, quote, below + skip, footer, area) if whole else {}
    tables = {}
    for file in files:
        how = looks[file]
        width = widths[file] if whole else how["width"]
        head = head_of(how, firsts[file], tops, quote, area)
        tables[file] = known_names(names_for(head, max(len(head), width)), known or {})
    last = [c for c in (file_column, sheet_column) if c]
    names = list(dict.fromkeys(name for file in files for name in tables[file]))
    names = [name for name in names if name not in last]
    plan = {
        file: (i, looks[file], [tables[file].index(name) if name in tables[file] else None for name in names])
        for i, file in enumerate(files)
    }
    texts = parsed(df, plan, len(names), whole, below + skip, footer, area, quote, last, file_column)
    return typed(texts, names, last, types, decimal, group)
