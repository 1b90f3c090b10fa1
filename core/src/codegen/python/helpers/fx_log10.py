import math

from .by_row import by_row

fx_log10 = by_row(lambda x: math.log10(x))
