import datetime


def between(a, b):
    if not isinstance(a, datetime.datetime) and not isinstance(b, datetime.datetime):
        return (a - b).days
    at = lambda d: d if isinstance(d, datetime.datetime) else datetime.datetime.combine(d, datetime.time())
    return (at(a) - at(b)) / datetime.timedelta(days=1)
