import re

from .by_row import by_row

fx_regexreplace = by_row(lambda t, p, w: re.sub(p, w, t))
