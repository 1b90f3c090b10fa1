def columns_between(frame, first, last):
    names = list(frame.columns)
    return names[names.index(first) : names.index(last) + 1]
