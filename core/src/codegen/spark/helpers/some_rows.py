from pyspark.sql import functions as F

from .sort_rows import with_places


def some_rows(table, first=None, last=None, skip=None, every=None):
    """The first rows, the last, those after some, or every n-th from the first on."""
    if first is not None:
        return table.on(table.df.orderBy(F.asc("_row")).limit(first))
    if last is not None:
        return table.on(table.df.orderBy(F.desc("_row")).limit(last))
    placed = with_places(table.df, [F.asc("_row")])
    kept = placed.filter(F.col("_n") > skip) if skip is not None else placed.filter((F.col("_n") - 1) % every == 0)
    return table.on(kept.drop("_n"))
