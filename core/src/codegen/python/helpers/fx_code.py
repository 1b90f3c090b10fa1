from .by_row import by_row

fx_code = by_row(lambda t: ord(t[0]))
