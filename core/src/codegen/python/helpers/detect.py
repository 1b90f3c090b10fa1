import math
import re

from .lower_of import lower_of
from .read_date import read_moment
from .spaces import SPACES


def fitting(texts, decimal, among=None):
    """The types, of all or `among` some, that every text reads as, the narrowest first: a whole number, a number, yes or no, a date, a time, both."""
    point = re.escape(decimal)
    number = re.compile(f"-?(?:(?:0|[1-9][0-9]{{0,14}})|(?:(?:0|[1-9][0-9]*)?{point}[0-9]+)(?:[eE][-+]?[0-9]+)?)")
    ways = {
        "integer": re.compile("-?(?:0|[1-9][0-9]{0,14})").fullmatch,
        "decimal": lambda t: number.fullmatch(t) and not math.isinf(float(t.replace(decimal, "."))),
        "boolean": lambda t: lower_of(t) in ("true", "false"),
        "date": lambda t: read_moment(t, None, "date"),
        "time": lambda t: read_moment(t, None, "time"),
        "datetime": lambda t: len(t) > 10 and read_moment(t, None, "datetime"),
    }
    texts = [t.strip(SPACES) for t in texts]
    return [kind for kind, reads in ways.items() if (among is None or kind in among) and all(map(reads, texts))]


def detect(texts, decimal):
    """The narrowest type that every text reads as, else text."""
    return next(iter(fitting(texts, decimal) if texts else []), "text")
