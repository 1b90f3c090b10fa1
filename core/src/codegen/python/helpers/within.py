from .whole import whole


def within(x):
    return whole(x) if isinstance(x, int) else x
