from .by_row import by_row_own

fx_isblank = by_row_own(lambda x: x is None)
