# What a step did to its rows: for each row the position, or pairs of a table's place and a position, of the rows it was
# made of; move after move.
trace_moves = []


def follow(rows):
    """To be called by what moves, repeats or groups rows."""
    trace_moves.append(list(rows))


def followed(frame):
    """Rows chosen by a step, numbered anew."""
    follow(frame.index)
    return frame.reset_index(drop=True)


def follow_groups(ids, order=None):
    """Rows that become one for each number in `ids`; the groups in `order`, else in that of their numbers."""
    groups = {}
    for row, group in enumerate(ids):
        groups.setdefault(group, []).append(row)
    trace_moves.append([[(0, row) for row in groups.get(g, [])] for g in (sorted(groups) if order is None else order)])
