from decimal import ROUND_HALF_UP

from .by_row import by_row
from .rounded import rounded

fx_round = by_row(lambda x, n=0: rounded(x, int(n), ROUND_HALF_UP))
