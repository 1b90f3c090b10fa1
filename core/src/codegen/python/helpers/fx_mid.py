from .by_row import by_row

fx_mid = by_row(lambda t, s, n: t[int(s) - 1 : int(s) - 1 + int(n)] if int(s) >= 1 and int(n) >= 0 else None)
