import datetime

from .by_row import by_row


def week_of_year(d, mode=11):
    """1 and 17 begin weeks on Sunday, 2 and 11 on Monday, 12 to 16 on Tuesday to Saturday; 21 is ISO 8601."""
    if mode == 21:
        return d.isocalendar()[1]
    first = datetime.date(d.year, 1, 1).weekday() - {1: 6, 2: 0}.get(mode, mode - 11)
    return (d.timetuple().tm_yday - 1 + first % 7) // 7 + 1


fx_weeknum = by_row(week_of_year)
