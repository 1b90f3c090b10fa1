import numpy as np
import pandas as pd

from .by_row import attempt
from .column import column, floats
from .within import within


def is_whole(x):
    """Whether a value or a column is of whole numbers."""
    if isinstance(x, pd.Series) and x.dtype == object:
        return all(v is None or isinstance(v, int) for v in x)
    return x.dtype == "Int64" if isinstance(x, pd.Series) else x is None or isinstance(x, int)


def arithmetic(f, a, b, always_decimal=False):
    """Numbers with numbers, whole columns at once; out of range is empty."""
    if not isinstance(a, pd.Series) and not isinstance(b, pd.Series):
        return None if a is None or b is None else attempt(lambda x, y: within(f(x, y)), a, b)
    index = (a if isinstance(a, pd.Series) else b).index
    kind = "integer" if not always_decimal and is_whole(a) and is_whole(b) else "decimal"
    with np.errstate(all="ignore"):
        result = np.broadcast_to(f(floats(a), floats(b)), len(index))
    return column(pd.Series(result, index=index), kind)
