import pandas as pd
from pyspark.sql import functions as F

from .cells import cells
from .spark_table import by_rows
from .split_cells import pieces_of, split_to_columns


def split_found(table, name, cuts, at, keep=False):
    """Pieces in as many columns as the longest list of them needs, named after the column."""

    def count(frame):
        return pd.DataFrame(
            {
                "n": pd.Series(
                    [0 if t is None else len(pieces_of(t, cuts, at)) for t in cells(frame[name])], dtype="Int64"
                )
            }
        )

    counts = by_rows(table, count)
    most = counts.df.agg(F.max(counts.cell("n")).alias("n")).collect()[0]["n"] or 1
    return by_rows(
        table,
        lambda frame: split_to_columns(frame, name, [f"{name} {i + 1}" for i in range(most)], cuts, at, keep=keep),
    )
