import re

from .by_row import by_row

fx_regextest = by_row(lambda t, p: re.search(p, t) is not None)
