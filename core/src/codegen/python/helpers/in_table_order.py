def in_table_order(frame, names):
    return [c for c in frame.columns if c in set(names)]
