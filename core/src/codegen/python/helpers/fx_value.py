from .by_row import by_row
from .read_number import read_number

fx_value = by_row(lambda t: read_number(t, ".", ","))
