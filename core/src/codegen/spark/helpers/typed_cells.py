import pandas as pd

from .cast import read_texts
from .detect import fitting
from .in_batches import in_batches
from .spark_table import Table, by_rows


def detected_types(texts, columns, decimal):
    """The type of each column that all its texts read as."""

    def run(batches):
        fits, some = {i: None for i in columns}, dict.fromkeys(columns, False)
        for batch in batches:
            for i in columns:
                if fits[i] == []:
                    continue
                texts = [t for t in batch[f"t{i}"].unique() if t]
                if texts:
                    some[i], fits[i] = True, fitting(texts, decimal, fits[i])
        yield pd.DataFrame({"i": columns, "fits": [fits[i] or [] for i in columns], "some": [some[i] for i in columns]})

    if not columns:
        return {}
    fits = {i: None for i in columns}
    for row in in_batches(texts, run, "i long, fits array<string>, some boolean").collect():
        if row["some"]:
            fits[row["i"]] = (
                row["fits"] if fits[row["i"]] is None else [kind for kind in fits[row["i"]] if kind in row["fits"]]
            )
    return {i: ways[0] if ways else "text" for i, ways in fits.items()}


def typed(texts, names, last, types, decimal, group, lists=()):
    """Cells of their types, as told or detected; what does not read is empty and counted. `last` are columns of text at the end."""
    given = {
        name: types.get(name)
        if isinstance(types, dict)
        else "text"
        if types == "text"
        else "list"
        if name in lists
        else None
        for name in names
    }
    found = detected_types(texts, [i for i, name in enumerate(names) if given[name] is None], decimal)
    kinds = [
        given[name] if isinstance(given[name], tuple) else (given[name] or found[i], None)
        for i, name in enumerate(names)
    ]
    kinds += [("text", None)] * len(last)
    names = names + last
    at = [f"t{i}" for i in range(len(names))]

    def read(frame):
        made = {}
        for name, (kind, formats) in zip(names, kinds):
            made[name] = read_texts(frame[name], kind, formats, decimal, group)
        return pd.DataFrame(made, index=frame.index)

    return by_rows(
        Table(texts, names, ["text"] * len(names), at), read, {name: kind for name, (kind, _) in zip(names, kinds)}
    )
