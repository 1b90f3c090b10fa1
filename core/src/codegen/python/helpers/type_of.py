import datetime

from .column import ListText


def type_of(x):
    if x.dtype == "Int64":
        return "integer"
    if x.dtype == "float64":
        return "decimal"
    if x.dtype == "boolean":
        return "boolean"
    first = next((v for v in x.tolist() if v is not None), "")
    return "datetime" if isinstance(first, datetime.datetime) else "date" if isinstance(first, datetime.date) else "time" if isinstance(first, datetime.time) else "list" if isinstance(first, ListText) else "text"
