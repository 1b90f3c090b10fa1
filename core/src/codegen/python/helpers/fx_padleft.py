from .by_row import by_row


def padleft(t, n, f=" "):
    missing = int(n) - len(t)
    if int(n) > 1000000 or f == "":
        return None
    more = (f * (missing // len(f) + 1))[:missing] if missing > 0 else ""
    return more + t


fx_padleft = by_row(padleft)
