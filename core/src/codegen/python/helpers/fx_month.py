from .by_row import by_row

fx_month = by_row(lambda d: d.month)
