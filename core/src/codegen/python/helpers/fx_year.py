from .by_row import by_row

fx_year = by_row(lambda d: d.year)
