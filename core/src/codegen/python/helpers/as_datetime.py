import datetime

from .by_row import by_row

as_datetime = by_row(lambda a: datetime.datetime.combine(a, datetime.time()))
