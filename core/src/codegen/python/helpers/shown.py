import datetime
import math
import re
from decimal import Decimal


def shown(x):
    """A value as CSV writes it."""
    if isinstance(x, bool):
        return "true" if x else "false"
    if isinstance(x, float):
        r = float(f"{x:.15g}")
        if r == 0:
            return "0"
        if math.isinf(r):
            return f"{x:.15g}".replace("e+", "e")
        if 1e-7 <= abs(r) < 1e21:
            text = format(Decimal(repr(r)), "f")
            return text.rstrip("0").rstrip(".") if "." in text else text
        return re.sub(r"e([+-]?)0*", lambda m: "e" + m.group(1).replace("+", ""), repr(r).replace(".0e", "e"))
    if isinstance(x, datetime.datetime):
        return shown(x.date()) + "T" + shown(x.time())
    if isinstance(x, datetime.date):
        return f"{x.year:04}-{x.month:02}-{x.day:02}"
    if isinstance(x, datetime.time):
        return x.strftime("%H:%M:%S") + (f".{x.microsecond // 1000:03}" if x.microsecond >= 1000 else "")
    return str(x)
