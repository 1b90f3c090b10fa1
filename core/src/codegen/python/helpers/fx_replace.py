from .by_row import by_row

fx_replace = by_row(
    lambda t, s, n, w: t[: int(s) - 1] + w + t[int(s) - 1 + int(n) :] if int(s) >= 1 and int(n) >= 0 else None
)
