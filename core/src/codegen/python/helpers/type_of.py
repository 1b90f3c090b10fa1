import datetime

import pandas as pd

from .column import ListText

TYPES = {
    "Int64": "integer",
    "float64": "decimal",
    "boolean": "boolean",
    datetime.datetime: "datetime",
    datetime.date: "date",
    datetime.time: "time",
    ListText: "list",
}
# The types of columns that may hold no value at a step, by name.
known_kinds = {}


def type_of(x: pd.Series) -> str:
    """The type of a column; one of objects goes by its first value."""
    if str(x.dtype) in TYPES:
        return TYPES[str(x.dtype)]
    first = next((type(value) for value in x if pd.notna(value)), None)
    return known_kinds.get(x.name, "text") if first is None else TYPES.get(first, "text")
