import contextlib
import re
import sys

from .cells import cells
from .shown import shown


def write_csv(frame, path):
    """UTF-8, comma, LF, quotes only where needed, empty is nothing."""
    quote = lambda t: '"' + t.replace('"', '""') + '"' if re.search(r'[",\r\n]|^ | \Z', t) else t
    columns_ = [["" if v is None else quote(shown(v)) for v in cells(frame[c])] for c in frame.columns]
    with open(path, "w", encoding="utf-8", newline="") if path != "-" else contextlib.nullcontext(sys.stdout) as out:
        out.write(",".join(quote(c) for c in frame.columns) + "\n")
        out.writelines(",".join(row) + "\n" for row in zip(*columns_))
