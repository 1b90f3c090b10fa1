from decimal import ROUND_UP

from .by_row import by_row
from .rounded import rounded

fx_roundup = by_row(lambda x, n=0: rounded(x, int(n), ROUND_UP))
