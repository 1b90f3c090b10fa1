from .by_row import by_row_own
from .read_number import read_number

fx_isnumber = by_row_own(lambda t: t is not None and read_number(t, ".", ",") is not None)
