def move_columns(frame, names, to=None, before=None, after=None):
    rest = [c for c in frame.columns if c not in set(names)]
    beside = list(frame.columns)
    at = (
        0
        if to == "first"
        else len(rest)
        if to == "last"
        else sum(c in set(rest) for c in beside[: beside.index(before) if before else beside.index(after) + 1])
    )
    return frame[rest[:at] + list(names) + rest[at:]]
