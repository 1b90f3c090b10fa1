import datetime
from decimal import ROUND_HALF_UP, Decimal

import pandas as pd

from .column import ListText
from .max_whole import MAX_WHOLE
from .read_boolean import read_boolean
from .read_cells import read_cells
from .read_date import read_moment
from .read_number import read_number
from .shown import shown
from .type_of import type_of


def to_whole(x: float):
    """The nearest whole number, a half away from 0; None out of range."""
    whole = int(x if float(x).is_integer() else Decimal(f"{x:.15g}").to_integral_value(ROUND_HALF_UP))
    return whole if abs(whole) <= MAX_WHOLE else None


def read_whole(text: str, decimal: str = ".", group: str = ","):
    """A number as the nearest whole number; None for other text."""
    number = read_number(text, decimal, group)
    return None if number is None else to_whole(number)


def read_text(text: str, kind: str, formats=None, decimal: str = ".", group: str = ","):
    """A text as a value of a type, None where it does not read as one."""
    if kind == "text":
        return text
    if kind == "list":
        return ListText(text)
    if kind == "boolean":
        return read_boolean(text)
    if kind == "integer":
        return read_whole(text, decimal, group)
    return read_number(text, decimal, group) if kind == "decimal" else read_moment(text, formats, kind)


def read_texts(x: pd.Series, kind: str, formats=None, decimal: str = ".", group: str = ",") -> pd.Series:
    """A column of text as a type; what does not read as it is empty and counted, "" is empty."""
    texts = x.where(x.notna() & (x != ""), None)
    return read_cells(texts, lambda text: read_text(text, kind, formats, decimal, group), kind)


def to_type(x: object, kind: str):
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


def cast(x: pd.Series, kind: str, **how) -> pd.Series:
    """A column as another type; what does not read as it is empty and counted."""
    if type_of(x) == kind and kind != "text":
        return x
    return read_cells(x, lambda v: read_text(v, kind, **how) if isinstance(v, str) else to_type(v, kind), kind)
