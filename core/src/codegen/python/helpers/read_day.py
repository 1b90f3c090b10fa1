import datetime
import re

from .spaces import SPACES

DAY_PARTS = {"dd": "(?P<day>[0-9]{2})", "MM": "(?P<month>[0-9]{2})", "yyyy": "(?P<year>[0-9]{4})"}


def read_day(text: str, *patterns: str):
    """A date written by one of these patterns, such as dd/MM/yyyy; None for other text."""
    for pattern in patterns:
        parts = re.sub("dd|MM|yyyy", lambda part: DAY_PARTS[part.group()], re.escape(pattern))
        found = re.fullmatch(parts, text.strip(SPACES))
        try:
            if found:
                return datetime.date(**{part: int(digits) for part, digits in found.groupdict().items()})
        except ValueError:
            continue
    return None
