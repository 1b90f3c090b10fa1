import csv
import itertools
import os
import re
from collections import deque
from urllib.parse import unquote

import numpy as np
import pandas as pd
from pyspark.sql import functions as F
from pyspark.sql import types as T

from .corner import corner
from .in_batches import in_batches
from .sniff_delimiter import sniff_delimiter
from .spark_table import session
from .table_names import joined_names

MARKS = ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16-le"), (b"\xfe\xff", "utf-16-be"))


def lines_of(paths, encoding):
    """The lines of files as bytes, with their place: which path, file, block of it and number in the block."""
    reader = session().read.option("lineSep", "\n")
    if encoding.startswith("utf-16"):
        reader = reader.option("encoding", "UTF-16BE" if encoding == "utf-16-be" else "UTF-16LE")
    frames = []
    for i, path in enumerate(paths):
        place = F.struct(F.lit(i).alias("path"), F.col("_metadata.file_path").alias("file"))
        number = F.monotonically_increasing_id().bitwiseAND(F.lit(2**33 - 1))
        frames.append(
            reader.text(path).select(
                place.alias("source"),
                F.col("_metadata.file_block_start").alias("block"),
                number.alias("n"),
                F.col("value").cast("binary").alias("value"),
            )
        )
    df = frames[0]
    for frame in frames[1:]:
        df = df.union(frame)
    return df.select(F.format_string("%05d %s", "source.path", "source.file").alias("file"), "block", "n", "value")


def by_source(batches, whole):
    """The lines of each block of a file, or of each `whole` file, one source after the other."""

    def each_line():
        for batch in batches:
            yield from zip(batch["file"], batch["block"], batch["value"])

    for key, lines in itertools.groupby(each_line(), key=lambda line: line[0] if whole else line[:2]):
        file, block = (key, 0) if whole else key
        yield file, block, (bytes(value) for _, _, value in lines)


def decoded(lines, encoding, first):
    """Lines of text, each with its end; the mark of an encoding at the start of a file goes."""
    for i, line in enumerate(lines):
        text = line.decode(encoding)
        text = text[1:] if first and i == 0 and text.startswith("\ufeff") else text
        if "\r" in text:
            yield from re.findall(r"[^\r\n]*(?:\r\n?|\n)", text + "\n")
        else:
            yield text + "\n"


def encoding_told(start, given, valid):
    """The encoding that the first bytes tell, that is given, or UTF-8 where all is that, else that of Western Windows."""
    told = next((name for mark, name in MARKS if start.startswith(mark)), None)
    return told or given or ("utf-8" if valid else "windows-1252")


def complete(line, delimiter, quote):
    """Whether no quotes are left open at the end of a line."""
    q, d = re.escape(quote), re.escape(delimiter)
    return (
        quote not in line
        or re.fullmatch(
            f"(?:(?:{q}[^{q}]*(?:{q}{q}[^{q}]*)*{q}[^{d}]*|[^{q}{d}][^{d}]*|)(?:{d}|$))*", line.rstrip("\r\n")
        )
        is not None
    )


def look(df, encoding, delimiter, quote, above):
    """Of each file: its encoding, its delimiter, how many cells its rows have at most, whether a record goes over lines; and its first lines. The rows `above` the table do not tell how many."""
    signs = [delimiter] if delimiter else list(",;\t|")
    seen = in_batches(
        df,
        lambda batches: shapes(batches, encoding, signs, quote, above),
        "file string, block long, lines array<binary>, valid boolean, widths array<long>, open array<boolean>",
    ).collect()
    looks, firsts, blocks = {}, {}, {}
    for row in seen:
        blocks.setdefault(row["file"], []).append(row)
        if row["block"] == 0:
            firsts.setdefault(row["file"], []).extend(bytes(line) for line in row["lines"])
    for file, lines in firsts.items():
        parts = blocks[file]
        code = encoding_told(lines[0][:4] if lines else b"", encoding, all(row["valid"] for row in parts))
        sign = delimiter or sniff_delimiter([text.rstrip("\r\n") for text in decoded(lines[:60], code, True)], quote)
        at = signs.index(sign)
        looks[file] = {
            "encoding": code,
            "delimiter": sign,
            "width": max(row["widths"][at] for row in parts),
            "open": any(row["open"][at] for row in parts),
        }
    return looks, firsts


def plain(line, quote):
    """Whether a line is ASCII with no quotes, no zero byte and no line break in it, so that its signs part its cells."""
    return line.isascii() and quote.encode() not in line and b"\0" not in line and b"\r" not in line[:-1]


def shapes(batches, encoding, signs, quote, above):
    """Of each block: its first lines, whether it is UTF-8, and by each delimiter how many cells its rows have at most, blank ones aside, and whether quotes are left open at a line's end."""
    csv.field_size_limit(2**31 - 1)
    marks = [sign.encode() for sign in signs]
    for file, block, lines in by_source(batches, False):
        firsts, valid, widths, open_ = [], True, [0] * len(signs), [False] * len(signs)
        for n, line in enumerate(lines):
            if n < max(above, 60):
                firsts.append(line)
            told = block > 0 or n >= above
            if plain(line, quote):
                for i, sign in enumerate(marks if told else []):
                    cells = line.count(sign) + 1
                    if cells > widths[i] and line.replace(sign, b"").rstrip(b"\r"):
                        widths[i] = cells
                continue
            try:
                texts = list(decoded([line], encoding or encoding_told(line, None, True), block == 0))
            except UnicodeDecodeError:
                if encoding:
                    raise
                valid, texts = False, list(decoded([line], "windows-1252", block == 0))
            for i, sign in enumerate(signs):
                open_[i] = open_[i] or not all(complete(text, sign, quote) for text in texts)
                if told and not open_[i]:
                    widths[i] = max(
                        widths[i],
                        max(
                            (len(row) for row in csv.reader(texts, delimiter=sign, quotechar=quote) if any(row)),
                            default=0,
                        ),
                    )
        yield pd.DataFrame(
            {"file": [file], "block": [block], "lines": [firsts], "valid": [valid], "widths": [widths], "open": [open_]}
        )


def cut(rows, skip, footer, area):
    """Rows of a file below its names, without the last, within an area of it; each as its cells."""
    if area is not None:
        (left, top), (right, bottom) = (corner(p) for p in area.split(":"))
        rows = (row[left - 1 : right] for row in itertools.islice(rows, top - 1, bottom))
    rows = itertools.islice(rows, skip, None)
    held = deque()
    for row in rows:
        held.append(row)
        if len(held) > footer:
            yield held.popleft()


def head_of(how, lines, tops, quote, area):
    """The names of a file, from its first rows."""
    rows = csv.reader(decoded(lines, how["encoding"], True), delimiter=how["delimiter"], quotechar=quote)
    rows = list(cut(rows, 0, 0, area))
    if not tops or max(tops) > len(rows):
        return []
    return joined_names([rows[t - 1] for t in sorted(tops)])


def widest(df, looks, quote, skip, footer, area):
    """How many cells the rows of each file have at most, where files are read whole."""

    def run(batches):
        for file, _, lines in by_source(batches, True):
            how = looks[file]
            rows = csv.reader(decoded(lines, how["encoding"], True), delimiter=how["delimiter"], quotechar=quote)
            yield pd.DataFrame(
                {"file": [file], "w": [max((len(row) for row in cut(rows, skip, footer, area) if any(row)), default=0)]}
            )

    rows = df.repartition("file").sortWithinPartitions("file", "block", "n")
    return {row["file"]: row["w"] for row in in_batches(rows, run, "file string, w long").collect()}


def parsed(df, plan, width, whole, skip, footer, area, quote, last, file_column):
    """The cells of all files as texts, "" where there is none, in columns t0, t1 …"""
    if whole:
        df = df.repartition("file").sortWithinPartitions("file", "block", "n")
    names = [f"t{i}" for i in range(width + len(last))]

    def run(batches):
        csv.field_size_limit(2**31 - 1)
        for file, block, lines in by_source(batches, whole):
            number, how, places = plan[file]
            rows = csv.reader(decoded(lines, how["encoding"], block == 0), delimiter=how["delimiter"], quotechar=quote)
            rows = cut(rows, skip if block == 0 else 0, footer, area)
            base = os.path.basename(unquote(file.split(" ", 1)[1]))
            beside = [base if name == file_column else "" for name in last]
            filled = ((n, row) for n, row in enumerate(rows) if any(row))
            while piece := list(itertools.islice(filled, 10_000)):
                columns = list(itertools.zip_longest(*[row for _, row in piece], fillvalue=""))
                none = ("",) * len(piece)
                cells = [columns[p] if p is not None and p < len(columns) else none for p in places] + [
                    (text,) * len(piece) for text in beside
                ]
                made = pd.DataFrame(
                    {name: np.array(values, dtype=object) for name, values in zip(names, cells)},
                    index=range(len(piece)),
                )
                made.insert(0, "_row", [f"{number:04x}{block:012x}{n:010x}" for n, _ in piece])
                yield made

    schema = T.StructType([T.StructField(name, T.StringType()) for name in ["_row", *names]])
    return in_batches(df.select("file", "block", "value"), run, schema)
