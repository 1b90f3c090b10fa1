def names_for(cells_, width):
    made = []
    for i in range(width):
        wanted = cells_[i] if i < len(cells_) and cells_[i] != "" else f"Column {i + 1}"
        free, n = wanted, 2
        while free in made:
            free, n = f"{wanted} {n}", n + 1
        made.append(free)
    return made
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
