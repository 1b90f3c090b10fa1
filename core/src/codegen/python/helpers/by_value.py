import pandas as pd

from .cells import cells


def by_value(x):
    """For each row the place of its cell among the different cells of a column, and those cells; empty is the last, at -1."""
    codes, values = pd.factorize(x.array if x.dtype in ("Int64", "boolean") else x.to_numpy())
    return codes, cells(pd.Series(values, dtype=x.dtype)) + [None]
