import math

from .by_row import by_row

fx_floor = by_row(
    lambda x, s=1: (
        (0.0 if x == 0 else None) if s == 0 else float("%.15g" % (math.floor(float("%.15g" % (x / abs(s)))) * abs(s)))
    )
)
