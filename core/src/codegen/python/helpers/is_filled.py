from .is_empty import is_empty


def is_filled(x, **how):
    return ~is_empty(x, **how)
