import datetime


def day_of(d):
    return d.date() if isinstance(d, datetime.datetime) else d
