from .by_row import by_row

fx_len = by_row(lambda t: len(t))
