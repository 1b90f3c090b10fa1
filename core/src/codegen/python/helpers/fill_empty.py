import datetime

import pandas as pd

from .cells import cells
from .type_of import type_of


def fill_empty(x, value):
    others = cells(value) if isinstance(value, pd.Series) else [value] * len(x)
    kind = type_of(x)
    values = [o if v is None else v for v, o in zip(cells(x), others)]
    moments = kind == "datetime"
    return pd.Series([datetime.datetime.combine(v, datetime.time()) if moments and v is not None and not isinstance(v, datetime.datetime) else v for v in values], dtype="object")
