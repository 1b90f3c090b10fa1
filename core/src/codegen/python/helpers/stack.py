import numpy as np
import pandas as pd

from .as_objects import as_objects
from .free_name import free_name
from .same_types import same_types


def stack(tables: list, shared: bool = False, origin: str = "", names: tuple = ()) -> pd.DataFrame:
    """Tables under one another by the names of their columns, or of those that all have; what one lacks is empty.

    `origin` is a column of the tables' names.
    """
    parts = [table.copy(deep=False) for table in tables]
    for c in dict.fromkeys(c for part in parts for c in part):
        having = [part for part in parts if c in part]
        for part, cells in zip(having, same_types([part[c] for part in having])):
            part[c] = cells
    rows = pd.concat(parts, join="inner" if shared else "outer", ignore_index=True)
    rows = as_objects(rows, [c for c in rows if rows[c].dtype == object])
    if origin:
        rows[free_name(origin, list(rows))] = np.repeat(np.array(names, dtype=object), [len(part) for part in parts])
    return rows
