from .each import each
from .matches_in import matches_in


def take_part(
    x,
    before=None,
    after=None,
    between=None,
    first=None,
    last=None,
    start=None,
    length=None,
    pattern=None,
    group=0,
    occurrence="first",
):
    """A part of a text; nothing where it is not found."""

    def find(t, what):
        return t.find(what) if occurrence == "first" else t.rfind(what)

    def inner(t):
        found, at = None, t.find(between[0])
        while at >= 0:
            end = t.find(between[1], at + len(between[0]))
            if end < 0:
                break
            found = t[at + len(between[0]) : end]
            if occurrence == "first":
                break
            at = t.find(between[0], at + 1)
        return found

    def one(t):
        if before is not None:
            return t[: find(t, before)] if find(t, before) >= 0 else None
        if after is not None:
            return t[find(t, after) + len(after) :] if find(t, after) >= 0 else None
        if between is not None:
            return inner(t)
        if pattern is None:
            return t[:first] if first else t[-last:] if last else t[start - 1 : start - 1 + length]
        found = list(matches_in(pattern, t))
        return found[0 if occurrence == "first" else -1].group(group) if found else None

    return each(lambda t: t if t is None else one(t) or None, x)
