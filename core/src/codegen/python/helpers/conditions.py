import datetime

import pandas as pd

from .cells import cells
from .each import each
from .lower_of import lower_of
from .spaces import SPACES


def seen(t, ignore_case, trim):
    """A cell as a test sees it."""
    if not isinstance(t, str):
        return t
    t = t.strip(SPACES) if trim else t
    t = lower_of(t) if ignore_case else t
    return t if t != "" else None


def like_with_like(a, b):
    """Dates beside date-times are taken at midnight."""
    if isinstance(a, datetime.datetime) != isinstance(b, datetime.datetime):
        at = lambda d: d if isinstance(d, datetime.datetime) else datetime.datetime.combine(d, datetime.time())
        return at(a), at(b)
    return a, b


def test(f, x, value, ignore_case=False, trim=False):
    """Whether each cell of a column holds beside a value, or beside the cell of another column in its row."""

    def holds(a, b):
        return bool(
            f(*(like_with_like(a, b) if isinstance(a, datetime.date) and isinstance(b, datetime.date) else (a, b)))
        )

    if isinstance(value, pd.Series):
        made = [holds(seen(a, ignore_case, trim), seen(b, ignore_case, trim)) for a, b in zip(cells(x), cells(value))]
        return pd.Series(made, index=x.index, dtype=bool)
    beside = seen(value, ignore_case, trim)
    return each(lambda a: holds(seen(a, ignore_case, trim), beside), x).astype(bool)


def filled(f):
    return lambda a, b: a is not None and b is not None and f(a, b)
