from .by_row import by_row

fx_isoweeknum = by_row(lambda d: d.isocalendar()[1])
