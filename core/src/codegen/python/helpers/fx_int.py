import math

from .by_row import by_row
from .whole import whole

fx_int = by_row(lambda x: whole(math.floor(x)))
