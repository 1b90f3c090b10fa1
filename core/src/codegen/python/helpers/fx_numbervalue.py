from .by_row import by_row
from .read_number import read_number

fx_numbervalue = by_row(lambda t, d=".", g=",": read_number(t, d, g))
