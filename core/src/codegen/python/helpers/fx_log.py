import math

from .by_row import by_row

fx_log = by_row(lambda x, b=10: math.log10(x) if b == 10 else math.log(x) / math.log(b))
