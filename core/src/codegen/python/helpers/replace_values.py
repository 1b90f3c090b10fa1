import re

from .each import each
from .lower_of import lower_of
from .type_of import type_of


def replace_values(x, pairs, match="whole", ignore_case=False):
    """Whole values all at once; parts and patterns one after another."""
    if match == "whole":
        see = lower_of if ignore_case and type_of(x) == "text" else lambda v: v
        known = {see(find): put for find, put in pairs if find is not None}
        return each(lambda v: v if v is None else known.get(see(v), v), x, type_of(x))
    flags = re.IGNORECASE if ignore_case else 0
    def change(t):
        for find, put in pairs:
            if t:
                t = t.replace(find, put or "") if match == "part" and not ignore_case else re.sub(re.escape(find) if match == "part" else find, (put or "").replace("\\", "\\\\") if match == "part" else put, t, flags=flags)
        return t or None
    return each(lambda t: t if t is None else change(t), x, "text")
