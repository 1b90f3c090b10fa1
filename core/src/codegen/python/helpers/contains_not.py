from .contains import contains


def contains_not(x, value, **how):
    return ~contains(x, value, **how)
