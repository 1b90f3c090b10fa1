import datetime
import math


def later(a, n):
    if isinstance(a, datetime.datetime):
        return a + datetime.timedelta(milliseconds=math.floor(n * 86400000 + 0.5))
    return a + datetime.timedelta(days=math.floor(n))
