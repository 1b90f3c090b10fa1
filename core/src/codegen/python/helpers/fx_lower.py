from .by_row import by_row
from .lower_of import lower_of

fx_lower = by_row(lambda t: lower_of(t))
