from .by_row import by_row
from .written import MONTH_NAMES

fx_monthname = by_row(lambda d: MONTH_NAMES[d.month - 1])
