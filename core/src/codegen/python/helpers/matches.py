import re

import pandas as pd

from .conditions import seen


def matches(x, pattern, ignore_case=False, trim=False):
    pattern = re.compile(pattern, re.IGNORECASE if ignore_case else 0)
    return pd.Series([t is not None and pattern.search(t) is not None for t in seen(x, False, trim)], index=x.index, dtype=bool)
