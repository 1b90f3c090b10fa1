from .at_least import at_least
from .at_most import at_most


def between_values(x, low, high, **how):
    return at_least(x, low, **how) & at_most(x, high, **how)
