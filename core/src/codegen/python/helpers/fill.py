from .cells import cells
from .column import column
from .summarise import groups_of
from .type_of import type_of


def fill(frame, names, direction, within=()):
    """Empty cells take the nearest filled one above or below, within rows alike."""
    ids = groups_of(frame, list(dict.fromkeys(within)))
    order = range(len(frame)) if direction == "down" else range(len(frame) - 1, -1, -1)
    result = frame.copy()
    for name in names:
        values, last = cells(frame[name]), {}
        for i in order:
            if values[i] is not None:
                last[ids[i]] = values[i]
            else:
                values[i] = last.get(ids[i])
        result[name] = column(values, type_of(frame[name]))
    return result
