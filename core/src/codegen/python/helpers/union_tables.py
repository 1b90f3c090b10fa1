import pandas as pd

from .cast import cast
from .cells import cells
from .column import column
from .follow import follow  # trace
from .free_name import free_name
from .kind_together import kind_together
from .rename_columns import rename_columns
from .shown import shown
from .type_of import type_of


def union_tables(parts, shared=False, origin=None):
    """Tables under one another, by the names of their columns; what one lacks is empty. A part may tell the types of columns without values."""
    places = list(dict.fromkeys(id(frame) for frame, *_ in parts))  # trace
    tables = [places.index(id(frame)) for frame, *_ in parts]  # trace
    parts = [
        (rename_columns(frame, renames), name, kinds[0] if kinds else {}) for frame, name, renames, *kinds in parts
    ]
    names = list(dict.fromkeys(c for frame, *_ in parts for c in frame.columns))
    if shared:
        names = [n for n in names if all(n in frame.columns for frame, *_ in parts)]
    result = {}
    for n in names:
        kind = kind_together(
            type_of(frame[n]) if frame[n].notna().any() else told.get(n, type_of(frame[n]))
            for frame, _, told in parts
            if n in frame.columns
        )
        values = []
        for frame, *_ in parts:
            if n not in frame.columns:
                values += [None] * len(frame)
            elif kind == "text":
                values += [None if v is None else shown(v) for v in cells(frame[n])]
            else:
                values += cells(cast(frame[n], kind))
        result[n] = column(values, kind)
    if origin is not None:
        result[free_name(origin, list(result))] = column(
            [name for frame, name, _ in parts for _ in range(len(frame))], "text"
        )
    follow([(table, row)] for table, (frame, *_) in zip(tables, parts) for row in range(len(frame)))  # trace
    return pd.DataFrame(result, index=range(sum(len(frame) for frame, *_ in parts)))
