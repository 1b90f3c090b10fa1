from .by_row import by_row
from .lower_of import lower_of

fx_search = by_row(
    lambda w, t, f=1: lower_of(t[int(f) - 1 :]).index(lower_of(w)) + int(f) if 1 <= int(f) <= len(t) + 1 else None
)
