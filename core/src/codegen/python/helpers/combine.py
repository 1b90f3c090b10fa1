import pandas as pd

from .cells import cells
from .column_order import put
from .shown import shown


def combine(frame, names, name, between, keep=False, before=None, after=None):
    """Texts of several columns joined, empty cells passed over."""
    columns_ = [[None if v is None else shown(v) for v in cells(frame[c])] for c in names]
    values = [between.join(v for v in row if v is not None) for row in zip(*columns_)]
    return put(
        frame if keep else frame.drop(columns=list(names)),
        name,
        pd.Series(values, dtype="object"),
        "text",
        before,
        after,
    )
