from .by_row import by_row_own

fx_coalesce = by_row_own(lambda *a: next((x for x in a if x is not None), None))
