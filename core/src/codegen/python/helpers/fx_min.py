from .by_row import by_row_own

fx_min = by_row_own(lambda *a: min((x for x in a if x is not None), default=None))
