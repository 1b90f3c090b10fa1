from .by_row import by_row
from .written import DAY_NAMES

fx_dayname = by_row(lambda d: DAY_NAMES[d.weekday()])
