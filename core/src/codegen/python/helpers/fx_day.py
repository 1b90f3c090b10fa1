from .by_row import by_row

fx_day = by_row(lambda d: d.day)
