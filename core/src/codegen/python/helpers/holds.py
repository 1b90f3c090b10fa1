import pandas as pd

from .cells import cells


def holds(frame, x):
    """A computed condition; empty counts as no."""
    return pd.Series([v is True for v in (cells(x) if isinstance(x, pd.Series) else [x] * len(frame))], index=frame.index, dtype=bool)
