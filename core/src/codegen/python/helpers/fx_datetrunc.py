import datetime

from .by_row import by_row
from .day_of import day_of


def datetrunc(d, u):
    if u == "hour":
        return d.replace(minute=0, second=0, microsecond=0) if isinstance(d, datetime.datetime) else d
    m = {"year": 1, "quarter": d.month - (d.month - 1) % 3}.get(u, d.month)
    day = day_of(d)
    start = (
        day
        if u == "day"
        else day - datetime.timedelta(days=day.weekday())
        if u == "week"
        else datetime.date(d.year, m, 1)
    )
    return datetime.datetime.combine(start, datetime.time()) if isinstance(d, datetime.datetime) else start


fx_datetrunc = by_row(datetrunc)
