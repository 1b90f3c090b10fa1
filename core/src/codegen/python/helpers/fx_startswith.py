from .by_row import by_row

fx_startswith = by_row(lambda t, p: t.startswith(p))
