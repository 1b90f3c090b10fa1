import math

from .by_row import by_row

fx_exp = by_row(lambda x: math.exp(x))
