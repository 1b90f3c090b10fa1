import calendar
import datetime

from .by_row import by_row
from .day_of import day_of


def datedif(s, e, u):
    s, e = day_of(s), day_of(e)
    if s > e:
        return None

    def moved(m):
        i = s.year * 12 + s.month - 1 + m
        return datetime.date(i // 12, i % 12 + 1, min(s.day, calendar.monthrange(i // 12, i % 12 + 1)[1]))

    m = (e.year - s.year) * 12 + e.month - s.month - (e.day < s.day)
    return (
        m // 12
        if u == "y"
        else m
        if u == "m"
        else (e - s).days
        if u == "d"
        else m % 12
        if u == "ym"
        else (e - moved(m // 12 * 12 if u == "yd" else m)).days
    )


fx_datedif = by_row(datedif)
