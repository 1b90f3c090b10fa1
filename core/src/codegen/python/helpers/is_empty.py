from .conditions import test


def is_empty(x, **how):
    return test(lambda a, b: a is None, x, None, **how)
