import collections
import csv
import functools
import io
import math
import os
import re

import pandas as pd

from .cast import read_text, warn_unread
from .column import column
from .lower_of import lower_of
from .read_date import read_moment
from .spaces import SPACES
from .follow import first_record, follow_file  # trace


def decode(data, encoding):
    for bom, name in ((b"\xef\xbb\xbf", "utf-8"), (b"\xff\xfe", "utf-16-le"), (b"\xfe\xff", "utf-16-be")):
        if data.startswith(bom):
            return data[len(bom):].decode(name)
    if encoding:
        return data.decode(encoding)
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        return data.decode("windows-1252")
def sniff_delimiter(text, quote):
    """The sign that parts most lines into equally many cells."""
    lines = [re.sub(re.escape(quote) + "[^" + re.escape(quote) + "]*" + re.escape(quote), "", l) for l in text.split("\n", 60)[:60] if l.strip("\r") != ""]
    best = (0, 0, ",")
    for d in ",;\t|":
        counts = collections.Counter(l.count(d) for l in lines if d in l)
        if counts:
            mode = max(counts.values())
            best = max(best, (mode, max(c for c in counts if counts[c] == mode), d), key=lambda b: b[:2])
    return best[2]
def detect(values, decimal):
    kinds = set()
    for t in set(values):
        t = t.strip(SPACES)
        kinds.add("integer" if re.fullmatch("^-?(?:0|[1-9][0-9]{0,14})$", t) else "decimal" if re.fullmatch("^-?(?:(?:0|[1-9][0-9]*)\u0001[0-9]+|\u0001[0-9]+)(?:[eE][-+]?[0-9]+)?$".replace("\u0001", re.escape(decimal)), t) and not math.isinf(float(t.replace(decimal, ".")))
            else "boolean" if lower_of(t) in ("true", "false") else next((k for k in ("date", "time") if read_moment(t, None, k) is not None), "datetime" if len(t) > 10 and read_moment(t, None, "datetime") is not None else "text"))
        if len(kinds) > 1 and kinds != {"integer", "decimal"}:
            return "text"
    return "decimal" if len(kinds) > 1 else kinds.pop() if kinds else "text"
def names_for(cells_, width):
    made = []
    for i in range(width):
        wanted = cells_[i] if i < len(cells_) and cells_[i] != "" else "Column %d" % (i + 1)
        free, n = wanted, 2
        while free in made:
            free, n = "%s %d" % (wanted, n), n + 1
        made.append(free)
    return made
def known_names(names, known):
    """A column that comes by another name gets its own, unless that is there too."""
    for i, name in enumerate(names):
        if name in known and known[name] not in names:
            names[i] = known[name]
    return names
def corner(ref):
    letters, digits = re.fullmatch("([A-Za-z]+)([0-9]*)", ref).groups()
    return functools.reduce(lambda n, c: n * 26 + ord(c) - 64, letters.upper(), 0), int(digits or 0) or None
def within_range(rows, area):
    """The rows and cells of a range such as B3:K90; rows are counted in it from then on."""
    if area is None:
        return rows
    (left, top), (right, bottom) = (corner(p) for p in area.split(":"))
    return [r[left - 1:right] for r in rows[top - 1:bottom]]
def joined_names(heads):
    """Several rows of names as one; an upper name goes on to the right."""
    if len(heads) == 1:
        return list(heads[0])
    width = max([len(h) for h in heads] + [0])
    filled = []
    for i, head in enumerate(heads):
        last, row = "", []
        for c in range(width):
            cell = head[c] if c < len(head) else ""
            last = cell or last
            row.append(cell if i == len(heads) - 1 else last)
        filled.append(row)
    return [" ".join(dict.fromkeys(row[c] for row in filled if row[c])) for c in range(width)]
def parted(rows, header, skip, footer, name_of=str):
    """The names, and the rows below them without what is left out."""
    tops = [] if header is None else sorted(header) if isinstance(header, list) else [header]
    top = max(tops + [0])
    names = joined_names([[name_of(v) for v in rows[t - 1]] for t in tops]) if tops and top <= len(rows) else []
    while names and names[-1] == "" and name_of is not str:
        names.pop()
    return names, rows[top + skip:len(rows) - footer]
def open_csv(files, encoding=None, delimiter=None, quote='"', header=1, skip=0, footer=0, area=None, types="detect", decimal=".", group=",", file_column=None, sheet_column=None, known={}):
    """Files with one table, stacked by column name; rows are counted as seen, blank rows leave."""
    csv.field_size_limit(2 ** 31 - 1)
    stacked, count = {}, 0
    for path in files:
        with open(path, "rb") as f:
            text = decode(f.read(), encoding)
        rows = list(csv.reader(io.StringIO(text, newline="\n" if "\n" in text else ""), delimiter=delimiter or sniff_delimiter(text, quote), quotechar=quote))
        head, body = parted(within_range(rows, area), header, skip, footer)
        follow_file(path, "", body, first_record(header, skip, area))  # trace
        body = [r for r in body if any(c != "" for c in r)]
        names = known_names(names_for(head, max([len(head)] + [len(r) for r in body])), known)
        for i, name in enumerate(names):
            stacked.setdefault(name, [""] * count).extend(r[i] if i < len(r) else "" for r in body)
        for column_, note in ((file_column, os.path.basename(path)), (sheet_column, "")):
            if column_:
                stacked.setdefault(column_, [""] * count).extend([note] * len(body))
        count += len(body)
        for values in stacked.values():
            values.extend([""] * (count - len(values)))
    frame = {}
    for column_ in (file_column, sheet_column):
        if column_ in stacked:
            stacked[column_] = stacked.pop(column_)
    for name, values in stacked.items():
        given = types.get(name) if isinstance(types, dict) else "text" if types == "text" or name in (file_column, sheet_column) else None
        kind, formats = (given if isinstance(given, tuple) else (given or detect([v for v in values if v != ""], decimal), None))
        known = {v: None if v == "" else read_text(v, kind, formats=formats, decimal=decimal, group=group) for v in set(values)}
        warn_unread(name, sum(v != "" and known[v] is None for v in values), kind)
        frame[name] = column([known[v] for v in values], kind)
    return pd.DataFrame(frame, index=range(count))
