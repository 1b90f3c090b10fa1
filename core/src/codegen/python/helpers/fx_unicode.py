from .by_row import by_row

fx_unicode = by_row(lambda t: ord(t[0]))
