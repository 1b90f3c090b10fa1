from .each import each
from .lower_of import lower_of
from .matches_in import put_matches
from .type_of import type_of


def replace_values(x, pairs, match="whole", ignore_case=False):
    """Whole values all at once; parts and patterns one after another."""
    if match == "whole":
        see = lower_of if ignore_case and type_of(x) == "text" else lambda v: v
        known = {see(find): put for find, put in pairs if find is not None}
        return each(lambda v: v if v is None else known.get(see(v), v), x, type_of(x))

    def change(t):
        for find, put in pairs:
            if t:
                t = t.replace(find, put or "") if match == "part" else put_matches(find, put, t)
        return t or None

    return each(lambda t: t if t is None else change(t), x, "text")
