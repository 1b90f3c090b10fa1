import re

from .free_name import free_name
from .lower_of import lower_of
from .spaces import SPACES


def settle_names(frame, wanted):
    """In a clash the renamed column gives way."""
    before = list(frame.columns)
    taken = [w for w, b in zip(wanted, before) if w == b]
    names = []
    for w, b in zip(wanted, before):
        names.append(w if w == b else free_name(w, taken))
        taken.append(names[-1])
    return frame.set_axis(names, axis=1)


def rename_columns(frame, names):
    return settle_names(frame, [names.get(c, c) for c in frame.columns])


def change_names(frame, names, trim, find, replace, case, prefix, suffix):
    def change(name, i):
        name = name.strip(SPACES) if trim else name
        name = name.replace(find, replace) if find else name
        name = {"lower": lower_of, "upper": str.upper, "title": title_of}.get(case, str)(name)
        return prefix + name + suffix or f"Column {i + 1}"

    return settle_names(frame, [change(c, i) if c in set(names) else c for i, c in enumerate(frame.columns)])


def title_of(t):
    def word(m):
        at = next((i for i, c in enumerate(m.group()) if c.isalpha()), None)
        return (
            m.group() if at is None else "".join(c.upper() if i == at else lower_of(c) for i, c in enumerate(m.group()))
        )

    return re.sub(r"(?:[^\W_]|['’])+", word, t)
