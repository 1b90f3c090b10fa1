from .by_row import by_row_own
from .shown import shown

fx_textjoin = by_row_own(
    lambda s, k, *v: (s or "").join(shown(x) if x is not None else "" for x in v if x is not None or k is not True)
)
