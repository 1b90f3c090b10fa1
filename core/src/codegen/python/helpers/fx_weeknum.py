import datetime

from .by_row import by_row

fx_weeknum = by_row(lambda d: (d.timetuple().tm_yday - 1 + datetime.date(d.year, 1, 1).weekday()) // 7 + 1)
