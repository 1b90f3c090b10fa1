from .by_row import by_row

fx_left = by_row(lambda t, n=1: t[: int(n)] if int(n) >= 0 else None)
