import pandas as pd

from .is_same import is_same


def is_one_of(x, values, **how):
    result = pd.Series(False, index=x.index)
    for value in values:
        result = result | is_same(x, value, **how)
    return result
