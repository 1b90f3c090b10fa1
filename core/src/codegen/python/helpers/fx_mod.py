from .by_row import by_row

fx_mod = by_row(lambda x, d: x % d)
