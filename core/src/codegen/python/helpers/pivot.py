import math

import numpy as np
import pandas as pd

from .cells import cells
from .column import column
from .column_order import place
from .follow import follow_groups  # trace
from .free_name import free_name
from .shown import shown
from .stop import stop
from .summarise import group_figures, groups_of
from .warn import warn


def pivot(frame, labels, values, by, found=None, gaps=None, before=None, after=None):
    """A column of each label; a row of each combination of the columns `by`."""
    by = list(dict.fromkeys(by))
    ids = groups_of(frame, by)
    texts = [None if v is None else shown(v) for v in cells(frame[labels])]
    present = list(dict.fromkeys(texts))
    for label in present if found is not None else []:
        if label not in found:
            warn(
                f"“{labels}” has “{'Empty' if label is None else label}” in {texts.count(label)} rows, of which no column is made."
            )
    found = present if found is None else found
    first = {}
    for row, g in enumerate(ids):
        first.setdefault(g, row)
    follow_groups(ids, first if by else [0])  # trace
    result = frame[by].iloc[list(first.values())].reset_index(drop=True) if by else pd.DataFrame(index=range(1))
    at = place(by, before, after)
    for label in found:
        rows = [i for i, t in enumerate(texts) if t == label]
        part, part_ids = frame.iloc[rows].reset_index(drop=True), ids[rows]
        order = sorted(set(part_ids))
        dense = (
            np.array([order.index(g) for g in part_ids], dtype="int64")
            if len(order) < 50
            else np.searchsorted(np.array(order), part_ids)
        )
        for how, name, as_, kind, *more in values:
            if how == "only":
                held = {}
                for g, v in zip(part_ids, cells(part[name])):
                    if v is not None and held.get(g) is not None:
                        stop(
                            5,
                            f"Two values of “{name}” meet in one cell: {shown(held[g])} and {shown(v)}. Choose a measure such as their sum, or another column that tells the rows apart.",
                        )
                    held[g] = v if v is not None else held.get(g)
            elif how == "share":
                totals = dict(zip(sorted(set(ids)), group_figures(frame, ids, "sum", name, kind)))
                grand = math.fsum(v for v in totals.values() if v is not None)
                held = {
                    g: None if v is None or grand == 0 else v / grand
                    for g, v in zip(order, group_figures(part, dense, "sum", name, kind))
                }
            else:
                held = dict(zip(order, group_figures(part, dense, how, name, kind, *more)))
            wanted = ("Empty" if label is None else label) + ("" if len(values) == 1 else " " + as_)
            result.insert(
                at,
                free_name(wanted, list(result.columns)),
                column([held.get(g, gaps) for g in (first if by else [0])], kind),
            )
            at += 1
    return result
