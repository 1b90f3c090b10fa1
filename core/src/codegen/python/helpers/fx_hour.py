from .by_row import by_row

fx_hour = by_row(lambda t: t.hour)
