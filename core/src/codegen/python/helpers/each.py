import numpy as np
import pandas as pd

from .by_value import by_value
from .column import column


def each(f, x, kind=None):
    """f of every cell of a column, called once for each different one; of a type, or as plain values."""
    codes, values = by_value(x)
    made = np.empty(len(values), dtype=object)
    for i, v in enumerate(values):
        made[i] = f(v)
    made = pd.Series(made, dtype=object) if kind is None else column(made, kind)
    return made.take(codes).set_axis(x.index)
