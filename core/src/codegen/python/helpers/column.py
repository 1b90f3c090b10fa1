import numpy as np
import pandas as pd

from .max_whole import MAX_WHOLE


class ListText(str):
    """A list, as the compact JSON that stands for it."""


def floats(values):
    """Plain numbers, or a column of them, as an array of floats; empty is NaN."""
    if isinstance(values, pd.Series) and values.dtype != object:
        return values.to_numpy("float64", na_value=np.nan)
    return np.array(values, dtype=object).astype("float64")


def column(values, kind):
    """A column of one type: Int64, float64, boolean, or objects with None for empty. Numbers out of range are empty."""
    index = values.index if isinstance(values, pd.Series) else None
    if kind == "boolean":
        return pd.Series(pd.array(list(values), dtype="boolean"), index=index)
    if kind in ("integer", "decimal"):
        x = floats(values)
        outside = ~(np.abs(x) <= (MAX_WHOLE if kind == "integer" else np.finfo("float64").max))
        if kind == "decimal":
            return pd.Series(np.where(outside, np.nan, x) + 0.0, index=index)
        return pd.Series(pd.arrays.IntegerArray(np.where(outside, 0, x).astype("int64"), outside), index=index)
    made = np.empty(len(values), dtype=object)
    made[:] = [None if v is None or v == "" else ListText(v) if kind == "list" else v for v in values]
    return pd.Series(made, index=index, dtype=object)
