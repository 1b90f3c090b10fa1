import datetime

from .by_row import by_row


def date_of(y, m, d):
    i = int(y) * 12 + int(m) - 1
    return datetime.date(1, 1, 1) + datetime.timedelta(days=first_of_month(i // 12, i % 12 + 1) + int(d) - 1)


def first_of_month(y, m):
    y0 = y - 1 if m <= 2 else y
    era, yoe = y0 // 400, y0 % 400
    return era * 146097 + yoe * 365 + yoe // 4 - yoe // 100 + (153 * (m - 3 if m > 2 else m + 9) + 2) // 5 - 306


fx_date = by_row(date_of)
