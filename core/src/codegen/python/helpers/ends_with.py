from .conditions import filled, test


def ends_with(x, value, **how):
    return test(filled(lambda a, b: a.endswith(b)), x, value, **how)
