from .by_row import by_row
from .matches_in import put_matches

fx_regexreplace = by_row(lambda t, p, w: put_matches(p, w, t))
