MAX_WHOLE = 2 ** 53 - 1
