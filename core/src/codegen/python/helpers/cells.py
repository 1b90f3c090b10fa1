import math


def cells(x):
    """The cells of a column as plain Python values, None for empty."""
    if x.dtype == object:
        return x.where(x.notna(), None).tolist()
    if x.dtype == "float64":
        return [None if math.isnan(v) else v for v in x.tolist()]
    return x.astype(object).where(x.notna(), None).tolist()
