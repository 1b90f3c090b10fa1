import csv
import itertools
import os

import numpy as np
import pandas as pd

from .cast import read_texts
from .corner import corner
from .detect import detect
from .encoding_of import encoding_of, found_encoding
from .sniff_delimiter import sniff_delimiter
from .sources import first_record, follow_file  # trace
from .table_names import joined_names, known_names, names_for


def first_lines(path, encoding):
    with open(path, encoding=encoding, newline="\n") as f:
        return [line.rstrip("\n") for line in itertools.islice(f, 60)]


def row_widths(path, encoding, delimiter, quote):
    """How many cells each row of a file has; 0 where all are empty."""
    csv.field_size_limit(2**31 - 1)
    with open(path, encoding=encoding, newline="") as f:
        return [len(row) if any(row) else 0 for row in csv.reader(f, delimiter=delimiter, quotechar=quote)]


def read_rows(path, encoding, delimiter, quote, area):
    """All cells of a file as text, "" where a row is short, and how many cells each row has."""
    widths = np.array(row_widths(path, encoding, delimiter, quote), dtype="int64")
    columns_ = range(widths.max(initial=1))
    try:
        rows = pd.read_csv(
            path,
            header=None,
            names=columns_,
            index_col=False,
            dtype=object,
            na_filter=False,
            skip_blank_lines=False,
            sep=delimiter,
            quotechar=quote,
            encoding=encoding,
            low_memory=False,
        )
    except (pd.errors.ParserError, pd.errors.EmptyDataError):
        rows = pd.DataFrame()
    if len(rows) != len(widths):  # quotes that are not closed, which pandas takes otherwise
        with open(path, encoding=encoding, newline="") as f:
            rows = pd.DataFrame(
                list(csv.reader(f, delimiter=delimiter, quotechar=quote)), columns=columns_, dtype=object
            ).fillna("")
    if area is None:
        return rows, widths
    (left, top), (right, bottom) = (corner(p) for p in area.split(":"))
    return rows.iloc[top - 1 : bottom, left - 1 : right], np.clip(widths[top - 1 : bottom], 0, right) - (left - 1)


def read_table(path, encoding, delimiter, quote, header, skip, footer, area, known):
    """The table of one file as text, without blank rows."""
    encoding = encoding_of(path, encoding) if encoding else found_encoding(path)
    rows, widths = read_rows(
        path, encoding, delimiter or sniff_delimiter(first_lines(path, encoding), quote), quote, area
    )
    tops = [] if header is None else header if isinstance(header, list) else [header]
    below = max(tops + [0])
    head = (
        joined_names([rows.iloc[t - 1].tolist() for t in sorted(tops)])[: max(widths[t - 1] for t in tops)]
        if tops and below <= len(rows)
        else []
    )
    rows, widths = rows.iloc[below + skip : len(rows) - footer], widths[below + skip : len(rows) - footer]
    follow_file(path, "", rows.to_numpy().tolist(), first_record(header, skip, area))  # trace
    maybe = rows[rows.iloc[:, 0] == ""]
    filled = ~rows.index.isin(maybe.index[(maybe == "").all(axis=1)])
    width = max(len(head), widths[filled].max(initial=0))
    return rows.iloc[filled, :width].set_axis(known_names(names_for(head, width), known), axis=1)


def open_csv(
    files,
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
    """Files with one table, stacked by column name; rows are counted as seen, blank rows leave."""
    if known is None:
        known = {}
    tables = [read_table(path, encoding, delimiter, quote, header, skip, footer, area, known) for path in files]
    for note, values in ((file_column, [os.path.basename(path) for path in files]), (sheet_column, [""] * len(files))):
        tables = [table.assign(**{note: value}) if note else table for table, value in zip(tables, values)]
    rows = pd.concat(tables, ignore_index=True)
    last = [c for c in (file_column, sheet_column) if c]
    rows = rows[[c for c in rows.columns if c not in last] + last]
    for name in rows.columns:
        given = types.get(name) if isinstance(types, dict) else "text" if types == "text" or name in last else None
        texts = [text for text in rows[name].dropna().unique() if text]
        kind, formats = given if isinstance(given, tuple) else (given or detect(texts, decimal), None)
        rows[name] = read_texts(rows[name], kind, formats, decimal, group)
    return rows
