import math

import numpy as np

from .cells import cells
from .column import column
from .column_order import place
from .free_name import free_name
from .sort_rows import sorted_rows
from .summarise import group_figures, groups_of


def window(frame, by, order, measures, before=None, after=None):
    """The same figure beside every row of its group; rows stay in place."""
    ids = groups_of(frame, list(dict.fromkeys(by)))
    rows = np.arange(len(frame)) if order is None else sorted_rows(frame, order)
    ties = None if order is None else groups_of(frame, [name for name, *_ in order])
    result = frame.copy()
    at = place(list(frame.columns), before, after)
    for how, name, wanted, kind, more in measures:
        values, made = None if name is None else cells(frame[name]), [None] * len(frame)
        if how in ("rank", "dense-rank", "row-number", "running-sum", "previous", "next"):
            members = {}
            for row in rows:
                members.setdefault(ids[row], []).append(row)
            for group in members.values():
                rank, so_far = 0, []
                for k, row in enumerate(group):
                    if how == "row-number":
                        made[row] = k + 1
                    elif how in ("rank", "dense-rank"):
                        if k == 0 or (ties is not None and ties[row] != ties[group[k - 1]]):
                            rank = rank + 1 if how == "dense-rank" else k + 1
                        made[row] = rank
                    elif how == "running-sum":
                        if values[row] is not None:
                            so_far = (
                                [math.fsum(so_far + [values[row]])]
                                if isinstance(values[row], float)
                                else [sum(so_far) + values[row]]
                            )
                        made[row] = so_far[0] if so_far else None
                    else:
                        other = k - more.get("offset", 1) if how == "previous" else k + more.get("offset", 1)
                        made[row] = values[group[other]] if 0 <= other < len(group) else None
        elif how == "share":
            totals = group_figures(frame, ids, "sum", name, kind)
            made = [None if v is None or not totals[g] else v / totals[g] for v, g in zip(values, ids)]
        else:
            figures = group_figures(
                frame,
                ids,
                how,
                name,
                kind,
                dict(more, **({"order": order} if order and how in ("first", "last") else {})),
            )
            made = [figures[g] for g in ids]
        made = column(made, kind)
        made.index = result.index
        result.insert(at, free_name(wanted, list(result.columns)), made)
        at += 1
    return result
