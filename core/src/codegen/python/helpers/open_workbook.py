import datetime
import os
import re

import pandas as pd

from .cast import read_text, to_type
from .column import ListText, column
from .corner import corner
from .detect import detect
from .kind_together import kind_together
from .max_whole import MAX_WHOLE
from .ods_sheets import ods_sheets
from .shown import shown
from .sources import first_record, follow_file  # trace
from .table_names import joined_names, known_names, names_for
from .xlsx_sheets import Unreadable, xlsx_sheets


def sheets_wanted(sheets, wanted):
    """The first that is not hidden, those named, or those whose name fits."""
    if wanted == "first":
        return [s for s in sheets if not s[1]][:1]
    if isinstance(wanted, list):
        return [s for name in wanted for s in sheets if s[0] == name]
    fits = lambda pattern, name: (
        re.fullmatch(
            "".join(".*" if c == "*" else "." if c == "?" else re.escape(c) for c in pattern),
            name,
            re.IGNORECASE | re.DOTALL,
        )
        is not None
    )
    return [
        s for s in sheets if fits(wanted["like"], s[0]) and not ("unlike" in wanted and fits(wanted["unlike"], s[0]))
    ]


def cell_name(v):
    return "" if v is None else v.text if isinstance(v, Unreadable) else shown(int(v) if kind_of(v) == "integer" else v)


def kind_of(v):
    if isinstance(v, bool):
        return "boolean"
    if isinstance(v, (int, float)):
        return "integer" if float(v).is_integer() and abs(v) <= MAX_WHOLE else "decimal"
    return (
        "datetime"
        if isinstance(v, datetime.datetime)
        else "date"
        if isinstance(v, datetime.date)
        else "time"
        if isinstance(v, datetime.time)
        else "list"
        if isinstance(v, ListText)
        else "text"
    )


def within_range(rows, area):
    """The rows and cells of a range such as B3:K90; rows are counted in it from then on."""
    if area is None:
        return rows
    (left, top), (right, bottom) = (corner(p) for p in area.split(":"))
    return [r[left - 1 : right] for r in rows[top - 1 : bottom]]


def parted(rows, header, skip, footer):
    """The names, and the rows below them without what is left out."""
    tops = [] if header is None else sorted(header) if isinstance(header, list) else [header]
    top = max(tops + [0])
    names = joined_names([[cell_name(v) for v in rows[t - 1]] for t in tops]) if tops and top <= len(rows) else []
    while names and names[-1] == "":
        names.pop()
    return names, rows[top + skip : len(rows) - footer]


def stack_cells(parts, types, decimal, group, detects, file_column, sheet_column, known):
    """Tables of typed cells stacked by column name: cells keep their type, a column of mixed cells is text."""
    stacked, count = {}, 0
    for names, body, file, sheet in parts:
        body = [r for r in body if any(v is not None for v in r)]
        names = known_names(
            names_for(
                names,
                max(
                    [len(names)]
                    + [len(r) - next((i for i, v in enumerate(reversed(r)) if v is not None), 0) for r in body]
                ),
            ),
            known,
        )
        for i, name in enumerate(names):
            stacked.setdefault(name, [None] * count).extend(r[i] if i < len(r) else None for r in body)
        for column_, note in ((file_column, file), (sheet_column, sheet)):
            if column_:
                stacked.setdefault(column_, [None] * count).extend([note] * len(body))
        count += len(body)
        for values in stacked.values():
            values.extend([None] * (count - len(values)))
    for column_ in (file_column, sheet_column):
        if column_ in stacked:
            stacked[column_] = stacked.pop(column_)
    frame = {}
    for name, values in stacked.items():
        kinds = {kind_of(v) for v in values if v is not None and not isinstance(v, Unreadable)}
        given = types.get(name) if isinstance(types, dict) else "text" if types == "text" else None
        kind, formats = given if isinstance(given, tuple) else (given, None)
        if kind is None:
            kind = kind_together(kinds)
            if detects and kinds == {"text"} and name not in (file_column, sheet_column):
                kind = detect([v for v in values if isinstance(v, str)], decimal)

        def as_kind(v, kind=kind, formats=formats):
            if v is None or isinstance(v, Unreadable):
                return None
            if isinstance(v, str) and not isinstance(v, ListText):
                return read_text(v, kind, formats=formats, decimal=decimal, group=group)
            v = int(v) if kind_of(v) == "integer" else v
            return v if kind_of(v) == kind else to_type(v, kind)

        frame[name] = column([as_kind(v) for v in values], kind)
    return pd.DataFrame(frame, index=range(count))


def open_workbook(
    files,
    sheets="first",
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
    """Sheets of workbooks, stacked by column name; rows are counted as seen in each sheet."""
    if known is None:
        known = {}
    parts = []
    for path in files:
        with open(path, "rb") as f:
            start = f.read(200)
        for name, _, rows in sheets_wanted(
            ods_sheets(path) if b"opendocument.spreadsheet" in start else xlsx_sheets(path), sheets
        ):
            rows = [[None if v == "" else v for v in r] for r in rows]
            while rows and all(v is None for v in rows[-1]):
                rows.pop()
            names, body = parted(within_range(rows, area), header, skip, footer)
            follow_file(path, name, body, first_record(header, skip, area))  # trace
            parts.append((names, body, os.path.basename(path), name))
    return stack_cells(parts, types, decimal, group, False, file_column, sheet_column, known)
