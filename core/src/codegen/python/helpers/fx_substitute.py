from .by_row import by_row


def substitute(t, o, n, w=None):
    if o == "" or w is None:
        return t if o == "" else t.replace(o, n)
    parts = t.split(o)
    if int(w) < 1:
        return None
    return t if len(parts) <= int(w) else o.join(parts[: int(w)]) + n + o.join(parts[int(w) :])


fx_substitute = by_row(substitute)
