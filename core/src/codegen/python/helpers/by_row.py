import calendar
import itertools
import math

import pandas as pd

from .cells import cells
from .each import each


def rows_of(f, args):
    series = [a for a in args if isinstance(a, pd.Series)]
    if not series:
        return f(*args)
    if len(series) == 1:
        return each(lambda v: f(*[v if isinstance(a, pd.Series) else a for a in args]), series[0])
    lists = [cells(a) if isinstance(a, pd.Series) else itertools.repeat(a) for a in args]
    return pd.Series([f(*row) for row in itertools.islice(zip(*lists), len(series[0]))], dtype="object")


def attempt(f, *row):
    try:
        result = f(*row)
    except (ValueError, ZeroDivisionError, OverflowError, TypeError, IndexError, calendar.IllegalMonthError):
        return None
    return (
        None
        if result == ""
        or isinstance(result, complex)
        or (isinstance(result, float) and (math.isnan(result) or math.isinf(result)))
        else result
    )


def by_row_own(f):
    """A function of cells made one of columns; it sees empty cells."""
    return lambda *args: rows_of(lambda *row: attempt(f, *row), args)


def by_row(f):
    """A function of cells made one of columns; an empty cell gives empty."""
    return lambda *args: rows_of(lambda *row: None if any(v is None for v in row) else attempt(f, *row), args)
