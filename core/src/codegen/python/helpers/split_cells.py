import itertools

from .cells import cells
from .column import column
from .follow import follow  # trace
from .free_name import free_name
from .matches_in import matches_in


def cuts_by_text(delimiter):
    def cuts(t):
        at = t.find(delimiter)
        while at >= 0:
            yield at, at + len(delimiter)
            at = t.find(delimiter, at + len(delimiter))

    return cuts


def cuts_by_pattern(pattern):
    return lambda t: (m.span() for m in matches_in(pattern, t) if m.end() > m.start())


def cuts_by_widths(widths):
    ends = list(itertools.accumulate(widths[:-1]))
    return lambda t: ((e, e) for e in ends if e < len(t))


def pieces_of(t, cuts, at, most=None):
    """What stands beyond the last piece stays joined in it."""
    spans = list(cuts(t))
    spans = spans if at == "every" else spans[:1] if at == "first" else spans[-1:]
    pieces, start = [], 0
    for s, e in spans if most is None else spans[: most - 1]:
        pieces.append(t[start:s])
        start = e
    return pieces + [t[start:]]


def with_pieces(frame, name, made, wanted, keep):
    """The pieces take the place of the column, or stand right after it."""
    at = list(frame.columns).index(name) + (1 if keep else 0)
    result = frame.copy() if keep else frame.drop(columns=[name])
    for i, (want, values) in enumerate(zip(wanted, made)):
        values = column([v or None for v in values], "text")
        values.index = result.index
        result.insert(at + i, free_name(want, list(result.columns)), values)
    return result


def split_to_columns(frame, name, wanted, cuts, at, keep=False):
    values = cells(frame[name])
    known = {t: [] if t is None else pieces_of(t, cuts, at, len(wanted) if wanted else None) for t in set(values)}
    count = len(wanted) if wanted else max([1] + [len(known[t]) for t in values])
    made = [[known[t][i] if i < len(known[t]) else None for t in values] for i in range(count)]
    return with_pieces(frame, name, made, wanted or [f"{name} {i + 1}" for i in range(count)], keep)


def split_to_rows(frame, name, cuts, at, keep=False):
    pieces = [[None] if t is None else pieces_of(t, cuts, at) for t in cells(frame[name])]
    rows = frame.index.repeat([len(p) for p in pieces])
    follow(rows)  # trace
    result = frame.loc[rows].reset_index(drop=True)
    return with_pieces(result, name, [[v for p in pieces for v in p]], [name], keep)
