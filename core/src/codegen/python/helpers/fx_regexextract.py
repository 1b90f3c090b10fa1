import re

from .by_row import by_row

fx_regexextract = by_row(lambda t, p, g: re.search(p, t).group(g) if re.search(p, t) else None)
