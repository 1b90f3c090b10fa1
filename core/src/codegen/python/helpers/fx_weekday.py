from .by_row import by_row

fx_weekday = by_row(lambda d, k=1: d.weekday() if k == 3 else (d.weekday() - {1: 6, 2: 0}.get(k, k - 11) + 7) % 7 + 1)
