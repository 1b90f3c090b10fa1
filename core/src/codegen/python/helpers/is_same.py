from .conditions import test


def is_same(x, value, **how):
    return test(lambda a, b: a == b, x, value, **how)
