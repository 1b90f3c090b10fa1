import contextlib
import re
import sys

import pandas as pd

from .cells import cells
from .shown import shown


def csv_cell(text: str) -> str:
    """A cell of CSV, in quotes where it needs them."""
    return '"' + text.replace('"', '""') + '"' if re.search(r'[",\r\n]|^ | \Z', text) else text


def write_csv(frame: pd.DataFrame, path: str) -> None:
    """Writes a table as UTF-8 with commas and LF; - is standard output."""
    texts = [["" if v is None else csv_cell(shown(v)) for v in cells(frame[c])] for c in frame.columns]
    out = contextlib.nullcontext(sys.stdout) if path == "-" else None
    with out or open(path, "w", encoding="utf-8", newline="") as file:
        file.write(",".join(csv_cell(c) for c in frame.columns) + "\n")
        file.writelines(",".join(row) + "\n" for row in zip(*texts))
