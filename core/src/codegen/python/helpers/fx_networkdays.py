from .by_row import by_row
from .day_of import day_of


def workdays_to(n):
    return (n - 1) // 7 * 5 + min((n - 1) % 7 + 1, 5)


def networkdays(s, e):
    s, e = day_of(s).toordinal(), day_of(e).toordinal()
    return workdays_to(e) - workdays_to(s - 1) if s <= e else -(workdays_to(s) - workdays_to(e - 1))


fx_networkdays = by_row(networkdays)
