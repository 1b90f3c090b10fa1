import math

from .by_row import by_row

fx_sqrt = by_row(lambda x: math.sqrt(x))
