import math

from .by_row import by_row

fx_ln = by_row(lambda x: math.log(x))
