import pandas as pd

from .column import column


def place(names, before, after):
    return names.index(before) if before in names else names.index(after) + 1 if after in names else len(names)


def put(frame, name, values, kind, before=None, after=None):
    """A computed column: new, or in place of the one of that name."""
    made = column(values if isinstance(values, pd.Series) else [values] * len(frame), kind)
    made.index = frame.index
    result = frame.copy()
    if name in result.columns:
        result[name] = made
    else:
        result.insert(place(list(result.columns), before, after), name, made)
    return result
