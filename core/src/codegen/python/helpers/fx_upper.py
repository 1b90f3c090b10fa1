from .by_row import by_row

fx_upper = by_row(lambda t: t.upper())
