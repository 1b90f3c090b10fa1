import datetime

from .column import ListText

# The types of columns that may hold no value at a step, by name.
known_kinds = {}


def type_of(x):
    if x.dtype == "Int64":
        return "integer"
    if x.dtype == "float64":
        return "decimal"
    if x.dtype == "boolean":
        return "boolean"
    first = next((v for v in x.tolist() if v is not None), None)
    if first is None:
        return known_kinds.get(x.name, "text")
    return "datetime" if isinstance(first, datetime.datetime) else "date" if isinstance(first, datetime.date) else "time" if isinstance(first, datetime.time) else "list" if isinstance(first, ListText) else "text"
