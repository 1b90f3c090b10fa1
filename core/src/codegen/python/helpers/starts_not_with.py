from .starts_with import starts_with


def starts_not_with(x, value, **how):
    return ~starts_with(x, value, **how)
