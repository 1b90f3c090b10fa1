import datetime
import re

from .months import MONTHS
from .spaces import SPACES

ISO = {
    "date": [(r"^([0-9]{4})-([0-9]{2})-([0-9]{2})$", "year month day")],
    "time": [(r"^([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\.([0-9]{1,3}))?)?$", "hour minute second ms")],
    "datetime": [
        (
            r"^([0-9]{4})-([0-9]{2})-([0-9]{2})(?:[T ]([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\.([0-9]{1,3}))?)?)?$",
            "year month day hour minute second ms",
        )
    ],
}


def read_moment(t, patterns, kind):
    """A date, a time or both, by patterns tried in order; None where none fits."""
    for source, names in patterns or ISO[kind]:
        m = re.fullmatch(source, t.strip(SPACES), re.IGNORECASE)
        if m is None:
            continue
        p = {n: v for n, v in zip(names.split(), m.groups()) if v is not None}
        p.update(n.split("=") for n in names.split() if "=" in n)
        hour = int(p.get("hour", 0))
        if "hour12" in p:
            if not 1 <= int(p["hour12"]) <= 12:
                continue
            hour = int(p["hour12"]) % 12 + (12 if p.get("half", "a")[0] in "pP" else 0)
        month = MONTHS.index(p["monthName"][:3].lower()) + 1 if "monthName" in p else int(p.get("month", 1))
        year = (
            int(p["year2"]) + (2000 if int(p["year2"]) < 50 else 1900)
            if "year2" in p
            else int(p["year"])
            if "year" in p
            else None
        )
        try:
            time = datetime.time(
                hour, int(p.get("minute", 0)), int(p.get("second", 0)), int(p.get("ms", "0").ljust(3, "0")) * 1000
            )
            if kind == "time":
                return time
            if year is not None:
                day = datetime.date(year, month, int(p.get("day", 1)))
                return day if kind == "date" else datetime.datetime.combine(day, time)
        except ValueError:
            continue
    return None


def read_date(t, patterns=None):
    return read_moment(t, patterns, "date")
