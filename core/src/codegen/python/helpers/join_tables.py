import pandas as pd

from .cells import cells
from .column import column
from .follow import follow  # trace
from .free_name import free_name
from .lower_of import lower_of
from .spaces import SPACES
from .stop import stop
from .type_of import type_of
from .warn import warn


def join_tables(left, right, how, on, ignore_case=False, trim=False, bring=None, prefix="", matches="all"):
    """Rows in the order of the left table, then of the right; rows only of the right last. Empty keys match nothing."""

    def keys(frame, names):
        def one(v):
            if isinstance(v, str):
                v = v.strip(SPACES) if trim else v
                v = lower_of(v) if ignore_case else v
                return v or None
            return v

        columns_ = [[one(v) for v in cells(frame[n])] for n in names]
        return [None if any(v is None for v in row) else row for row in zip(*columns_)]

    if how == "cross":
        pairs = [(l, r) for l in range(len(left)) for r in range(len(right))]
    else:
        lk, rk, found, met = keys(left, [a for a, _ in on]), keys(right, [b for _, b in on]), {}, set()
        for r, key in enumerate(rk):
            if key is not None:
                found.setdefault(key, []).append(r)
        pairs = []
        for l, key in enumerate(lk):
            rows = found.get(key, []) if key is not None else []
            if not rows:
                if how in ("left", "full", "left-only"):
                    pairs.append((l, -1))
                continue
            met.add(key)
            if how in ("left-only", "right-only"):
                continue
            if matches == "one" and len(rows) > 1:
                stop(
                    5,
                    f"A row matches {len(rows)} rows by {', '.join(a for a, _ in on)}, and only one match is allowed. Take the first, or make the rows there one of each.",
                )
            pairs.extend((l, r) for r in (rows if matches == "all" else rows[:1]))
        if how in ("right", "full", "right-only"):
            pairs.extend((-1, r) for r, key in enumerate(rk) if key is None or key not in met)
    ls, rs = [l for l, _ in pairs], [r for _, r in pairs]
    repeated = len([l for l in ls if l >= 0]) - len({l for l in ls if l >= 0})
    if repeated > 0 and how != "cross":
        warn(f"Matching by {', '.join(a for a, _ in on)} makes {repeated} more rows by repeated keys.")

    def taken(frame, name, rows):
        values = cells(frame[name])
        return [None if i < 0 else values[i] for i in rows]

    result = {}
    other_of = dict(on)
    if how != "right-only":
        for c in left.columns:
            values, kind = taken(left, c, ls), type_of(left[c])
            if how in ("right", "full") and c in other_of:
                values = [w if l < 0 else v for v, w, l in zip(values, taken(right, other_of[c], rs), ls)]
                kind = "decimal" if {kind, type_of(right[other_of[c]])} == {"integer", "decimal"} else kind
            result[c] = column(values, kind)
    if how != "left-only":
        for c in (
            bring
            if bring is not None
            else [c for c in right.columns if how == "right-only" or c not in other_of.values()]
        ):
            result[free_name(prefix + c, list(result))] = column(taken(right, c, rs), type_of(right[c]))
    follow([(part, row) for part, row in ((0, l), (1, r)) if row >= 0] for l, r in zip(ls, rs))  # trace
    return pd.DataFrame(result, index=range(len(pairs)))
