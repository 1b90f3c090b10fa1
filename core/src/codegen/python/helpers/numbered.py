import pandas as pd

from .summarise import groups_of


def numbered(frame, start, within=()):
    ids, next_ = groups_of(frame, list(dict.fromkeys(within))), {}
    values = []
    for i in ids:
        next_[i] = next_.get(i, start - 1) + 1
        values.append(next_[i])
    return pd.Series(values, dtype="object")
