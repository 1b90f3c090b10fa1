import csv
import itertools
import os
import sys

from .follow import trace_moves

# The rows of each file just opened: its path, sheet and the numbers of its records.
trace_files = []
# By table, for each of its rows: the rows of the inputs that it was made of.
trace_sources = {}
# The sheets of each file, in the order in which they were opened.
trace_sheets = {}
trace_out = []


def follow_file(path, sheet, body, first):
    """The rows of a file or sheet that are not blank; `first` is the number of the first of them, counted as a person does."""
    trace_sheets.setdefault((path, sheet), len(trace_sheets))
    trace_files.append(
        (path, sheet, [n for n, row in enumerate(body, first) if any(v is not None and v != "" for v in row)])
    )


def first_record(header, skip, area):
    """The number of the first row below the names."""
    top = max(header) if isinstance(header, list) else header or 0
    corner_row = "".join(c for c in area.split(":")[0] if c.isdigit()) if area else ""
    return int(corner_row or 1) + top + skip


def settle(table, *parts, opened=None, entered=None):
    """The sources of a table's rows after a step, from those of the tables that it read."""
    if opened is not None:
        trace_sources[table] = [{(opened, path, sheet, row)} for path, sheet, rows in trace_files for row in rows]
        trace_files.clear()
    elif entered is not None:
        trace_sources[table] = [{(table, None, "", row + 1)} for row in range(entered)]
    else:
        held = [trace_sources[part] for part in parts]
        for moves in trace_moves:
            pairs = ([(0, row)] if not isinstance(row, list) else row for row in moves)
            held[0] = [set(itertools.chain.from_iterable(held[part][at] for part, at in row)) for row in pairs]
        trace_sources[table] = held[0]
    trace_moves.clear()


def write_trace(tables, files):
    """CSV: of each row of the written tables, the rows of the inputs that it was made of."""
    if not trace_out:
        return
    places, names = {}, {}
    for one, paths in files.items():
        bases = [os.path.basename(path) for path in paths]
        for path, base in zip(paths, bases):
            names[one, path] = path if bases.count(base) > 1 else base
            places[one, path] = len(places)
    with open(trace_out[0], "w", encoding="utf-8", newline="") if trace_out[0] != "-" else sys.stdout as out:
        writer = csv.writer(out, lineterminator="\n")
        writer.writerow(["table", "row", "input", "file", "sheet", "source row"])
        for table in tables:
            for n, row in enumerate(trace_sources[table], 1):
                for one, path, sheet, record in sorted(
                    row, key=lambda s: (places.get(s[:2], len(places)), s[0], trace_sheets.get(s[1:3], 0), s[3])
                ):
                    writer.writerow([table, n, one, "" if path is None else names[one, path], sheet, record])
