from .is_one_of import is_one_of


def is_none_of(x, values, **how):
    return ~is_one_of(x, values, **how)
