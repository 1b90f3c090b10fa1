import math

from .cells import cells


def total_of(frame, name):
    return math.fsum(v for v in cells(frame[name]) if v is not None)
