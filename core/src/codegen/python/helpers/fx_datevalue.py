from .by_row import by_row
from .read_date import read_date

fx_datevalue = by_row(lambda t, p=None: read_date(t, p))
