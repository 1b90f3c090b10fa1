def columns_first(frame, names):
    return frame[list(names) + [c for c in frame.columns if c not in set(names)]]
