import functools
import math
import re

from .spaces import SPACES

CURRENCY = "[$¢£¤¥֏؋߾߿৲৳৻૱௹฿៛₠₡₢₣₤₥₦₧₨₩₪₫€₭₮₯₰₱₲₳₴₵₶₷₸₹₺₻₼₽₾₿⃀]"


@functools.cache
def number_pattern(decimal: str, group: str) -> re.Pattern:
    """A number and its parts: bracket, sign, currency, sign, digits, fraction, bare fraction, exponent, currency, %, bracket."""
    digits = rf"[0-9]{{1,3}}(?:{re.escape(group)}[0-9]{{3}})+|[0-9]+" if group else "[0-9]+"
    point = re.escape(decimal) if decimal else "(?!)"
    size = rf"(?:({digits})(?:{point}([0-9]+))?|{point}([0-9]+))([eE][-+]?[0-9]+)?"
    return re.compile(rf"(\()?([-+−])? ?({CURRENCY})? ?([-+−])?{size} ?({CURRENCY})? ?(%)?(\))?")


def read_number(text: str, decimal: str = ".", group: str = ","):
    """A number with a currency sign, thousands apart, brackets for minus or a % if it has them; None for other text."""
    found = number_pattern(decimal, group).fullmatch(text.strip(SPACES))
    if found is None:
        return None
    bracket, before, cash, after, digits, fraction, bare, exponent, cash_behind, percent, closed = found.groups()
    if bool(bracket) != bool(closed) or (cash and cash_behind) or bool(bracket) + bool(before) + bool(after) > 1:
        return None
    number = float(f"{(digits or '0').replace(group or ' ', '')}.{fraction or bare or '0'}{exponent or ''}")
    number = number / 100 if percent else number
    minus = bracket or "-" in f"{before}{after}" or "−" in f"{before}{after}"
    return None if math.isinf(number) else -number + 0.0 if minus else number
