import datetime
import re
from decimal import Decimal


def shown_number(x: float) -> str:
    """The shortest form of 15 digits, with an exponent below 1e-7 and from 1e21 on."""
    digits = Decimal(f"{x:.15g}")
    if digits == 0 or 1e-7 <= abs(digits) < 1e21:
        return f"{digits + 0:f}"
    text = f"{x:.15g}" if abs(x) > 1 else repr(float(digits))
    return re.sub(r"e\+?(-?)0*", r"e\1", text)


def shown(x: object) -> str:
    """A value as CSV has it."""
    if isinstance(x, bool):
        return str(x).lower()
    if isinstance(x, float):
        return shown_number(x)
    if isinstance(x, (datetime.datetime, datetime.time)):
        return x.isoformat(timespec="milliseconds" if x.microsecond else "seconds")
    return str(x)
