from .by_row import by_row
from .rename_columns import title_of

fx_proper = by_row(lambda t: title_of(t))
