import calendar
import datetime

from .by_row import by_row


def edate(d, m):
    i = d.year * 12 + d.month - 1 + int(m)
    last = calendar.monthrange(i // 12, i % 12 + 1)[1]
    return datetime.date(i // 12, i % 12 + 1, min(d.day, last))


fx_edate = by_row(edate)
