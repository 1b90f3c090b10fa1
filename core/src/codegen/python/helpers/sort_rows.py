import pandas as pd

from .follow import follow  # trace
from .lower_of import natural_key, sort_value
from .type_of import type_of


def sorted_rows(frame, keys):
    """Positions of rows in order: the first key is the major one; empty cells last either way; equal rows keep their order."""
    ranks = pd.DataFrame(index=frame.index)
    for i, (name, _, *natural) in enumerate(keys):
        values = frame[name]
        if values.dtype.kind not in "fib":
            order = sorted(
                set(values.dropna()), key=natural_key if natural and type_of(values) == "text" else sort_value
            )
            values = values.map({v: r for r, v in enumerate(order)})
        ranks[i] = values.astype("float64")
    ranks.index = range(len(frame))
    return ranks.sort_values(
        list(ranks.columns), ascending=[way == "ascending" for _, way, *_ in keys], kind="stable", na_position="last"
    ).index.to_numpy()


def sort_rows(frame, keys):
    rows = sorted_rows(frame, keys)
    follow(rows)  # trace
    return frame.iloc[rows].reset_index(drop=True)
