def free_name(wanted: str, taken: list) -> str:
    """A name that no column has: `Fee`, else `Fee 2`, `Fee 3`…"""
    free, n = wanted, 2
    while free in taken:
        free, n = f"{wanted} {n}", n + 1
    return free
