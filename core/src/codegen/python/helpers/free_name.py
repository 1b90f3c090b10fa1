def free_name(wanted, taken):
    free, n = wanted, 2
    while free in taken:
        free, n = f"{wanted} {n}", n + 1
    return free
