import math
import re

from .spaces import SPACES

CURRENCY = "[$¢£¤¥֏؋߾߿৲৳৻૱௹฿៛₠₡₢₣₤₥₦₧₨₩₪₫€₭₮₯₰₱₲₳₴₵₶₷₸₹₺₻₼₽₾₿⃀]"


# What number_pattern made; a cached function could not be sent to the workers of Spark.
number_patterns = {}


def number_pattern(decimal: str, group: str) -> re.Pattern:
    """The parts of a number with these signs, in the order in which read_number names them."""
    if (decimal, group) not in number_patterns:
        digits = rf"[0-9]{{1,3}}(?:{re.escape(group)}[0-9]{{3}})+|[0-9]+" if group else "[0-9]+"
        point = re.escape(decimal) if decimal else "(?!)"
        size = rf"(?:({digits})(?:{point}([0-9]+))?|{point}([0-9]+))([eE][-+]?[0-9]+)?"
        number_patterns[decimal, group] = re.compile(
            rf"(\()?([-+−])? ?({CURRENCY})? ?([-+−])?{size} ?({CURRENCY})? ?(%)?(\))?"
        )
    return number_patterns[decimal, group]


def read_number(text: str, decimal: str = ".", group: str = ","):
    """A number, also with a currency sign, thousands apart, brackets for minus or a %; None for other text."""
    found = number_pattern(decimal, group).fullmatch(text.strip(SPACES))
    if found is None:
        return None
    bracket, before, cash, after, digits, fraction, bare, power, cash_after, percent, closed = found.groups()
    signs = [sign for sign in (bracket, before, after) if sign]
    if len(signs) > 1 or (cash and cash_after) or bool(bracket) != bool(closed):
        return None
    number = float(f"{(digits or '0').replace(group or ' ', '')}.{fraction or bare or '0'}{power or ''}")
    number = number / 100 if percent else number
    minus = signs and signs[0] != "+"
    return None if math.isinf(number) else -number + 0.0 if minus else number
