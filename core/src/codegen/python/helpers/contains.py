from .conditions import filled, test


def contains(x, value, **how):
    return test(filled(lambda a, b: b in a), x, value, **how)
