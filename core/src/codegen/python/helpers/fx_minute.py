from .by_row import by_row

fx_minute = by_row(lambda t: t.minute)
