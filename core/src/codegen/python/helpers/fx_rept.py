from .by_row import by_row

fx_rept = by_row(lambda t, n: t * int(n) if int(n) >= 0 and int(n) * len(t) <= 1000000 else None)
