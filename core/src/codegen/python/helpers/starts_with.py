from .conditions import filled, test


def starts_with(x, value, **how):
    return test(filled(lambda a, b: a.startswith(b)), x, value, **how)
