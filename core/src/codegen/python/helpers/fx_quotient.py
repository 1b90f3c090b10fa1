import math

from .by_row import by_row
from .whole import whole

fx_quotient = by_row(lambda x, d: whole(math.trunc(x / d)))
