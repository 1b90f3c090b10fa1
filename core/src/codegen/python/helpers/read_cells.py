from collections.abc import Callable

import numpy as np
import pandas as pd

from .cells import cells
from .warn import warn_unread

DTYPES = {"integer": "Int64", "decimal": "float64", "boolean": "boolean"}


def read_cells(x: pd.Series, read: Callable, kind: str) -> pd.Series:
    """A column as another type, each different cell read once; what does not read is empty and counted."""
    codes, values = pd.factorize(x)
    made = [read(value) for value in cells(pd.Series(values, dtype=values.dtype))] + [None]
    unread = np.array([value is None for value in made[:-1]] + [False])
    warn_unread(unread[codes].sum(), x.name, kind)
    return pd.Series(made, dtype=DTYPES.get(kind, object)).take(codes).set_axis(x.index)
