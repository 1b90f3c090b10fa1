from .by_row import by_row_own
from .within import within

fx_sum = by_row_own(lambda *a: within(sum(x for x in a if x is not None)) if any(x is not None for x in a) else None)
