from .by_row import by_row

fx_contains = by_row(lambda t, p: p in t)
