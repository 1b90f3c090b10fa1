from .by_row import by_row


def splitpart(t, s, n):
    parts = t.split(s) if s else [t]
    at = int(n) - 1 if n > 0 else len(parts) + int(n)
    return None if int(n) == 0 or not 0 <= at < len(parts) else parts[at]


fx_splitpart = by_row(splitpart)
