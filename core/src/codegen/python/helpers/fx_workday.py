import datetime

from .by_row import by_row
from .day_of import day_of
from .fx_networkdays import workdays_to


def workday(s, n):
    n, at = int(n), day_of(s).toordinal()
    f = workdays_to(at) + n if n > 0 else workdays_to(at - 1) + n + 1
    return datetime.date.fromordinal(at if n == 0 else (f - 1) // 5 * 7 + (f - 1) % 5 + 1)


fx_workday = by_row(workday)
