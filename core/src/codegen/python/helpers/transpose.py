import pandas as pd

from .cast import cast
from .cells import cells
from .column import column
from .follow import follow  # trace
from .free_name import free_name
from .kind_together import kind_together
from .shown import shown
from .type_of import type_of


def transpose(frame, names=None):
    """Rows become columns; the old names become the column Name."""
    rest = [c for c in frame.columns if c != names]
    kind = kind_together(type_of(frame[c]) for c in rest)
    columns_ = [
        [v if v is None else shown(v) for v in cells(frame[c])] if kind == "text" else cells(cast(frame[c], kind))
        for c in rest
    ]
    titles = [None] * len(frame) if names is None else [None if v is None else shown(v) for v in cells(frame[names])]
    made = {"Name": column(rest, "text")}
    for row, title in enumerate(titles):
        made[free_name(f"Column {row + 1}" if title is None else title, list(made))] = column(
            [values[row] for values in columns_], kind
        )
    follow([(0, row) for row in range(len(frame))] for _ in rest)  # trace
    return pd.DataFrame(made, index=range(len(rest)))
