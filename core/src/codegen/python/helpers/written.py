import re
from decimal import ROUND_HALF_UP, Decimal

from .by_row import by_row


def moment_text(t, parts):
    hour, ms = getattr(t, "hour", 0), getattr(t, "microsecond", 0) // 1000
    ways = {
        "y": lambda n: f"{t.year % 100:02}" if n == 2 else str(t.year) if n == 1 else f"{t.year:0{n}}",
        "M": lambda n: f"{t.month:0{n}}" if n < 3 else MONTH_NAMES[t.month - 1][: 3 if n == 3 else None],
        "E": lambda n: DAY_NAMES[t.weekday()][: 3 if n < 4 else None],
        "d": lambda n: f"{t.day:0{n}}",
        "H": lambda n: f"{hour:0{n}}",
        "h": lambda n: f"{hour % 12 or 12:0{n}}",
        "m": lambda n: f"{getattr(t, 'minute', 0):0{n}}",
        "s": lambda n: f"{getattr(t, 'second', 0):0{n}}",
        "S": lambda n: f"{ms:03}"[:n],
        "a": lambda n: "AM" if hour < 12 else "PM",
    }
    return "".join(p[1:] if p[0] == "'" else ways[p[0]](len(p)) for p in parts)


MONTH_NAMES = [
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
]
DAY_NAMES = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"]


def number_text(x, before, after, before_minus, after_minus, digits, least, most, group, factor):
    exact = Decimal(x * factor if isinstance(x, int) else f"{x * factor:.15g}")
    size = (
        abs(exact)
        if -exact.as_tuple().exponent <= most
        else abs(exact).quantize(Decimal(1).scaleb(-most), rounding=ROUND_HALF_UP)
    )
    whole_, _, places = format(size, "f").partition(".")
    whole_, places = whole_.lstrip("0").rjust(digits, "0"), places.rstrip("0").ljust(least, "0")
    if group:
        whole_ = re.sub(r"\B(?=(?:.{" + str(group) + r"})+$)", ",", whole_)
    body = (whole_ or ("" if places else "0")) + ("." + places if places else "")
    return before_minus + body + after_minus if x < 0 and size != 0 else before + body + after


written_moment = lambda x, parts: by_row(lambda t: moment_text(t, parts))(x)
written_number = lambda x, *how: by_row(lambda v: number_text(v, *how))(x)
