import datetime
from decimal import ROUND_HALF_UP

import numpy as np

from .by_value import by_value
from .column import column
from .read_boolean import read_boolean
from .read_date import read_moment
from .read_number import read_number
from .rounded import rounded
from .shown import shown
from .type_of import type_of
from .warn import warn_unread
from .whole import whole


def read_text(t, kind, formats=None, decimal=".", group=","):
    """A text as a value of a type, None where it does not read as one."""
    if kind in ("text", "list"):
        return t
    if kind == "boolean":
        return read_boolean(t)
    if kind in ("integer", "decimal"):
        x = read_number(t, decimal, group)
        return x if x is None or kind == "decimal" else to_whole(x)
    return read_moment(t, formats, kind)
def read_column(name, codes, values, made, kind):
    """A column of the values that were made of the different cells of another; cells that did not read are empty, and how many is said."""
    unread = np.array([bool(v is not None and v != "" and m is None) for v, m in zip(values, made)])
    warn_unread(unread[codes].sum(), name, kind)
    return column(made, kind).take(codes)
def read_texts(name, codes, texts, kind, formats, decimal, group):
    """The same, of texts read as a type; "" is empty."""
    return read_column(name, codes, texts, [read_text(t, kind, formats=formats, decimal=decimal, group=group) if t else None for t in texts], kind)
def to_whole(x):
    return whole(rounded(x, 0, ROUND_HALF_UP))
def to_type(x, kind):
    """A value of one type as another, None where there is no way."""
    if kind == "text":
        return shown(x)
    if isinstance(x, datetime.datetime):
        return x.date() if kind == "date" else x.time() if kind == "time" else x
    if isinstance(x, datetime.date):
        return datetime.datetime.combine(x, datetime.time()) if kind == "datetime" else x
    if kind == "integer":
        return to_whole(x)
    return float(x) if kind == "decimal" else bool(x) if kind == "boolean" else x
def cast(x, kind, **how):
    if type_of(x) == kind and kind != "text":
        return x
    codes, values = by_value(x)
    made = [None if v is None else read_text(v, kind, **how) if isinstance(v, str) else to_type(v, kind) for v in values]
    return read_column(x.name, codes, values, made, kind).set_axis(x.index)
