from .by_row import by_row
from .day_of import day_of

fx_days = by_row(lambda e, s: day_of(e).toordinal() - day_of(s).toordinal())
