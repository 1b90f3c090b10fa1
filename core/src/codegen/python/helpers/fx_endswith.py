from .by_row import by_row

fx_endswith = by_row(lambda t, p: t.endswith(p))
