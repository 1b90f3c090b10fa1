import math
import re

from .spaces import SPACES

number_patterns = {}


def number_pattern(decimal, group):
    """The regular expression of a number with these signs, made once."""
    if (decimal, group) in number_patterns:
        return number_patterns[decimal, group]
    sign = lambda s: re.escape(s) if s else "(?!)"
    number_patterns[decimal, group] = re.compile("^(\\()?([-+−])? ?([$¢£¤¥֏؋߾߿৲৳৻૱௹฿៛₠₡₢₣₤₥₦₧₨₩₪₫€₭₮₯₰₱₲₳₴₵₶₷₸₹₺₻₼₽₾₿⃀])? ?([-+−])?(?:([0-9]{1,3}(?:\u0002[0-9]{3})+|[0-9]+)(?:\u0001([0-9]+))?|\u0001([0-9]+))([eE][-+]?[0-9]+)? ?([$¢£¤¥֏؋߾߿৲৳৻૱௹฿៛₠₡₢₣₤₥₦₧₨₩₪₫€₭₮₯₰₱₲₳₴₵₶₷₸₹₺₻₼₽₾₿⃀])? ?(%)?(\\))?$".replace("\u0001", sign(decimal)).replace("\u0002", sign(group)))
    return number_patterns[decimal, group]
def read_number(t, decimal=".", group=","):
    """Spaces at the ends, one currency sign, groups of thousands, (brackets) for minus, a trailing %."""
    m = number_pattern(decimal, group).fullmatch(t.strip(SPACES))
    if m is None:
        return None
    open_, before, cash, after, digits, fraction, bare, exponent, tail, percent, close = m.groups()
    sign = before or after
    if (open_ is None) != (close is None) or (cash and tail) or (before and after) or (open_ and sign):
        return None
    x = float((digits or "0").replace(group or "\0", "") + "." + (fraction or bare or "0") + (exponent or ""))
    if math.isinf(x):
        return None
    x = x / 100 if percent else x
    return -x + 0.0 if open_ or sign in ("-", "−") else x
