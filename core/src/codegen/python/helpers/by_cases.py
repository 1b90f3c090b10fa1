import datetime
import itertools

import pandas as pd

from .cells import cells


def by_cases(branches, otherwise, kind):
    """The value of the first condition that holds in a row."""
    given = lambda v, n: cells(v) if isinstance(v, pd.Series) else itertools.repeat(v, n)
    count = len(branches[0][0])
    made = list(given(otherwise, count))
    for mask, value in reversed(branches):
        made = [v if m else old for m, v, old in zip(mask.tolist(), given(value, count), made)]
    if kind == "datetime":
        made = [
            datetime.datetime.combine(v, datetime.time())
            if v is not None and not isinstance(v, datetime.datetime)
            else v
            for v in made
        ]
    return pd.Series(made, dtype="object")
