from .by_row import by_row
from .later import later

op_later = by_row(lambda a, n: later(a, n))
