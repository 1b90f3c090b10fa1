import numpy as np
import pandas as pd

from .by_row import attempt
from .max_whole import MAX_WHOLE
from .within import within


def arithmetic(f, a, b, always_decimal=False):
    """Numbers with numbers, whole columns at once; out of range is empty."""
    if not isinstance(a, pd.Series) and not isinstance(b, pd.Series):
        return None if a is None or b is None else attempt(lambda x, y: within(f(x, y)), a, b)
    index = (a if isinstance(a, pd.Series) else b).index
    whole_numbers = not always_decimal and all((isinstance(x, int) or x is None) if not isinstance(x, pd.Series) else x.dtype == "Int64" or (x.dtype == object and all(isinstance(v, int) or v is None for v in x)) for x in (a, b))
    def floats(x):
        if isinstance(x, pd.Series):
            return pd.to_numeric(x).to_numpy(dtype="float64", na_value=np.nan) if x.dtype != object else np.array([np.nan if v is None else float(v) for v in x])
        return np.nan if x is None else float(x)
    with np.errstate(all="ignore"):
        result = np.broadcast_to(f(floats(a), floats(b)), len(index)).astype("float64")
    result = np.where(np.isinf(result) | (np.abs(result) > MAX_WHOLE if whole_numbers else False), np.nan, result) + 0.0
    return pd.Series(pd.array([None if v != v else int(v) for v in result], dtype="Int64"), index=index) if whole_numbers else pd.Series(result, index=index)
