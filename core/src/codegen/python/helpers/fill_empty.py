import datetime

import pandas as pd

from .cells import cells
from .each import each
from .type_of import type_of


def fill_empty(x, value):
    """Empty cells take a value, or the cell of another column in their row."""

    def at_midnight(v):
        """A date as a moment where the column has moments."""
        day = type_of(x) == "datetime" and v is not None and not isinstance(v, datetime.datetime)
        return datetime.datetime.combine(v, datetime.time()) if day else v

    if not isinstance(value, pd.Series):
        put = at_midnight(value)
        return each(lambda v: put if v is None else v, x)
    return pd.Series(
        [at_midnight(o) if v is None else v for v, o in zip(cells(x), cells(value))], index=x.index, dtype=object
    )
