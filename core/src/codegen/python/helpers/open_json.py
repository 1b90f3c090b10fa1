import json
import os

from .encoding_of import encoding_of, found_encoding
from .flat_record import flat
from .open_workbook import stack_cells
from .sources import follow_file  # trace
from .stop import stop


def records_at(document, path):
    """The list of records at a path such as data.items."""
    rest = path or ""
    while rest and isinstance(document, dict):
        key = max((k for k in document if rest == k or rest.startswith(k + ".")), key=len, default=None)
        if key is None:
            break
        document, rest = document[key], rest[len(key) + 1 :]
    if rest or not isinstance(document, list) or not all(isinstance(r, dict) for r in document):
        stop(6, "There is no list of records %s." % ("at " + path if path else "at the top of the file"))
    return document


def open_json(
    files,
    path=None,
    encoding=None,
    types="detect",
    decimal=".",
    group=",",
    file_column=None,
    sheet_column=None,
    known=None,
):
    """Lists of records, one row each; what is nested becomes columns a.b, lists stay JSON."""
    if known is None:
        known = {}
    parts = []
    for file in files:
        with open(file, encoding=encoding_of(file, encoding) if encoding else found_encoding(file)) as f:
            rows = [flat(r) for r in records_at(json.load(f), path)]
        names = list(dict.fromkeys(k for r in rows for k in r))
        follow_file(file, "", [list(r.values()) for r in rows], 1)  # trace
        parts.append((names, [[r.get(n) for n in names] for r in rows], os.path.basename(file), ""))
    return stack_cells(parts, types, decimal, group, True, file_column, sheet_column, known)
