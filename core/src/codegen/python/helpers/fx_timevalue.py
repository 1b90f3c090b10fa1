from .by_row import by_row
from .read_date import read_moment

fx_timevalue = by_row(lambda t, p=None: read_moment(t, p, "time"))
