import functools
import re
import unicodedata

from .each import each
from .lower_of import lower_of
from .rename_columns import title_of
from .spaces import SPACES


def clean_text(x, acts):
    def without(t, *categories):
        return "".join(
            c
            for c in t
            if not unicodedata.category(c).startswith(categories) or (categories == ("Cc", "Cf") and c in SPACES)
        )

    ways = {
        "trim": lambda t: t.strip(SPACES),
        "collapse-spaces": lambda t: re.sub("[" + re.escape(SPACES) + "]+", " ", t),
        "upper": str.upper,
        "lower": lower_of,
        "title": title_of,
        "strip-digits": lambda t: without(t, "Nd"),
        "strip-letters": lambda t: without(t, "L"),
        "strip-punctuation": lambda t: without(t, "P"),
        "strip-invisible": lambda t: without(t, "Cc", "Cf"),
    }
    return each(lambda t: t and functools.reduce(lambda now, act: ways[act](now), acts, t), x, "text")
