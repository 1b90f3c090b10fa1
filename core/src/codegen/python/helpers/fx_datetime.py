import datetime

from .by_row import by_row
from .day_of import day_of

fx_datetime = by_row(
    lambda d, t: datetime.datetime.combine(day_of(d), t.time() if isinstance(t, datetime.datetime) else t)
)
