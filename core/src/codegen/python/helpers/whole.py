from .max_whole import MAX_WHOLE


def whole(x):
    return int(x) if abs(x) <= MAX_WHOLE else None
