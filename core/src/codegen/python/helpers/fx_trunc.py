from decimal import ROUND_DOWN

from .by_row import by_row
from .rounded import rounded

fx_trunc = by_row(lambda x, n=0: rounded(x, int(n), ROUND_DOWN))
