from .free_name import free_name


def names_for(cells: list, width: int = 0) -> list:
    """Names of columns, `width` at least, each there once; one that is missing is called by its place."""
    names = []
    for place, cell in enumerate([*cells, *[None] * (width - len(cells))], 1):
        names.append(free_name(cell if isinstance(cell, str) and cell else f"Column {place}", names))
    return names


def known_names(names, known):
    """A column that comes by another name gets its own, unless that is there too."""
    for i, name in enumerate(names):
        if name in known and known[name] not in names:
            names[i] = known[name]
    return names


def joined_names(heads):
    """Several rows of names as one; an upper name goes on to the right."""
    if len(heads) == 1:
        return list(heads[0])
    width = max([len(h) for h in heads] + [0])
    filled = []
    for i, head in enumerate(heads):
        last, row = "", []
        for c in range(width):
            cell = head[c] if c < len(head) else ""
            last = cell or last
            row.append(cell if i == len(heads) - 1 else last)
        filled.append(row)
    return [" ".join(dict.fromkeys(row[c] for row in filled if row[c])) for c in range(width)]
