import pandas as pd

from .each import each


def holds(frame, x):
    """A computed condition; empty counts as no."""
    if isinstance(x, pd.Series):
        return each(lambda v: v is True, x).astype(bool).set_axis(frame.index)
    return pd.Series(x is True, index=frame.index)
