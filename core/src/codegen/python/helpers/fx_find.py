from .by_row import by_row

fx_find = by_row(lambda w, t, f=1: t.index(w, int(f) - 1) + 1 if 1 <= int(f) <= len(t) + 1 else None)
