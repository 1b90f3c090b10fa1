import datetime

from .by_row import by_row


def time_of(h, m, s):
    seconds = (int(h) * 60 + int(m)) * 60 + int(s)
    return (
        (datetime.datetime.min + datetime.timedelta(seconds=seconds % 86400)).time() if 0 <= seconds <= 1e12 else None
    )


fx_time = by_row(time_of)
