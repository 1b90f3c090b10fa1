from .by_row import by_row

fx_not = by_row(lambda c: not c)
