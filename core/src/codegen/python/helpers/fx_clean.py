from .by_row import by_row

fx_clean = by_row(lambda t: "".join(c for c in t if not (ord(c) < 32 or 127 <= ord(c) < 160)))
