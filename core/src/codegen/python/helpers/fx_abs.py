from .by_row import by_row

fx_abs = by_row(lambda x: abs(x))
