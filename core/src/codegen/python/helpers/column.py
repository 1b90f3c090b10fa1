import math

import numpy as np
import pandas as pd

from .max_whole import MAX_WHOLE


class ListText(str):
    """A list, as the compact JSON that stands for it."""
def column(values, kind):
    """A column of one type: Int64, float64, boolean, or objects with None for empty."""
    if kind == "integer":
        return pd.Series(pd.array([None if v is None or abs(v) > MAX_WHOLE else int(v) for v in values], dtype="Int64"))
    if kind == "decimal":
        return pd.Series([np.nan if v is None or math.isinf(v) else float(v) + 0.0 for v in values], dtype="float64")
    if kind == "boolean":
        return pd.Series(pd.array(list(values), dtype="boolean"))
    if kind == "list":
        return pd.Series([v if v is None else ListText(v) for v in values], dtype="object")
    return pd.Series([None if v == "" else v for v in values], dtype="object")
