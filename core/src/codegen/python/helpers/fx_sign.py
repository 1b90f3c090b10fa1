from .by_row import by_row

fx_sign = by_row(lambda x: (x > 0) - (x < 0))
