import datetime
import itertools

import pandas as pd

from .cells import cells
from .lower_of import lower_of
from .spaces import SPACES


def seen(x, ignore_case, trim):
    """Text as a test sees it."""
    def one(t):
        if not isinstance(t, str):
            return t
        t = t.strip(SPACES) if trim else t
        t = lower_of(t) if ignore_case else t
        return t if t != "" else None
    return [one(t) for t in cells(x)] if isinstance(x, pd.Series) else itertools.repeat(one(x))
def like_with_like(a, b):
    """Dates beside date-times are taken at midnight."""
    if isinstance(a, datetime.datetime) != isinstance(b, datetime.datetime):
        at = lambda d: d if isinstance(d, datetime.datetime) else datetime.datetime.combine(d, datetime.time())
        return at(a), at(b)
    return a, b
def test(f, x, value, ignore_case=False, trim=False):
    return pd.Series([bool(f(*(like_with_like(a, b) if isinstance(a, datetime.date) and isinstance(b, datetime.date) else (a, b)))) for a, b in zip(seen(x, ignore_case, trim), seen(value, ignore_case, trim))], index=x.index, dtype=bool)
def filled(f):
    return lambda a, b: a is not None and b is not None and f(a, b)
