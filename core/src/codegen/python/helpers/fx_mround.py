from decimal import ROUND_HALF_UP

from .by_row import by_row
from .rounded import rounded

fx_mround = by_row(
    lambda x, s=1: (
        (0.0 if x == 0 else None)
        if s == 0
        else float("%.15g" % (rounded(float("%.15g" % (x / abs(s))), 0, ROUND_HALF_UP) * abs(s)))
    )
)
