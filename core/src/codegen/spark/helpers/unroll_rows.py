import pandas as pd

from .spark_table import by_rows
from .unroll import item_kinds, kind_of_items, lists_of, unroll


def unroll_rows(table, name):
    """A row for each item of the lists in a column, whose type is that of all items."""

    def kinds(frame):
        return pd.DataFrame({"kind": pd.Series(sorted(item_kinds(lists_of(frame[name]))), dtype=object)})

    found = by_rows(table, kinds, figures=True)
    kind = kind_of_items({row[0] for row in found.df.select(found.cell("kind")).distinct().collect()})
    return by_rows(table, lambda frame: unroll(frame, name, kind), repeats=True)
