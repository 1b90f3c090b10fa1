from .by_row import by_row

fx_second = by_row(lambda t: t.second)
