import math

import numpy as np
import pandas as pd

from .cells import cells
from .column import column
from .follow import follow_groups  # trace
from .free_name import free_name
from .list_items import list_of
from .lower_of import sort_value
from .shown import shown
from .sort_rows import sorted_rows


def groups_of(frame, by):
    """A number per row, equal for equal keys, in order of first appearance."""
    ids = np.zeros(len(frame), dtype="int64")
    for name in by:
        codes, uniques = pd.factorize(frame[name])
        ids, _ = pd.factorize(ids * (len(uniques) + 1) + codes + 1)
    return ids


def measure(how, values, kind, separator=", "):
    """One figure of a group; empty cells are passed over, except by count, first and last."""
    known = [v for v in values if v is not None]
    if how == "count":
        return len(values)
    if how == "filled":
        return len(known)
    if how == "distinct":
        return len(set(known))
    if how in ("first", "last"):
        return values[0 if how == "first" else -1] if values else None
    if how == "list":
        return list_of(known)
    if not known:
        return None
    if how == "join":
        return separator.join(shown(v) for v in known)
    if how in ("any", "every"):
        return any(known) if how == "any" else all(known)
    if how in ("sum", "share"):
        return sum(known) if all(isinstance(v, int) for v in known) else math.fsum(known)
    if how == "mean":
        return math.fsum(known) / len(known) if any(isinstance(v, float) for v in known) else sum(known) / len(known)
    if how == "deviation":
        above = [v - known[0] for v in known]
        mean = math.fsum(above) / len(above)
        return math.sqrt(math.fsum((v - mean) ** 2 for v in above) / (len(above) - 1)) if len(above) > 1 else None
    if how == "median":
        known.sort()
        return (
            float(known[len(known) // 2])
            if len(known) % 2
            else (known[len(known) // 2 - 1] + known[len(known) // 2]) / 2
        )
    return (min if how == "min" else max)(known, key=sort_value)


def group_figures(frame, ids, how, name, kind, more=None):
    """The figure of each group, by its number, in the order of the groups."""
    if more is None:
        more = {}
    values = [True] * len(frame) if name is None else cells(frame[name])
    order = np.argsort(ids, kind="stable")
    if "order" in more:
        rows = sorted_rows(frame, more["order"])
        order = rows[np.argsort(ids[rows], kind="stable")]
    starts = list(np.flatnonzero(np.diff(ids[order], prepend=-1))) if len(ids) else []
    sorted_ = [values[i] for i in order]
    figures = [
        measure(how, sorted_[a:b], kind, more.get("separator", ", "))
        for a, b in zip(starts, starts[1:] + [len(sorted_)])
    ]
    if how == "share":
        total = math.fsum(v for v in figures if v is not None)
        figures = [None if v is None or total == 0 else v / total for v in figures]
    return figures


def summarise(frame, by, measures):
    """One row per group."""
    by = list(dict.fromkeys(by))
    ids = groups_of(frame, by)
    follow_groups(ids, None if by else [0])  # trace
    order = np.argsort(ids, kind="stable")
    starts = np.flatnonzero(np.diff(ids[order], prepend=-1)) if len(ids) else np.array([], dtype="int64")
    result = frame[by].iloc[order[starts]].reset_index(drop=True)
    if not by:
        result = pd.DataFrame(index=range(1))
    for how, name, wanted, kind, *more in measures:
        figures = group_figures(frame, ids, how, name, kind, *more)
        if not by and not figures:
            figures = [measure(how, [], kind)]
        result[free_name(wanted, list(result.columns))] = column(figures, kind)
    return result
