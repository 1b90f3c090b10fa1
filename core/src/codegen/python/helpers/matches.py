import re

from .conditions import seen
from .each import each


def matches(x, pattern, trim=False):
    pattern = re.compile(pattern)

    def fits(t):
        t = seen(t, False, trim)
        return t is not None and pattern.search(t) is not None

    return each(fits, x).astype(bool)
