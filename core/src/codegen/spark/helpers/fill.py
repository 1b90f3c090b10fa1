from pyspark.sql import Window
from pyspark.sql import functions as F

from .sort_rows import with_places

# How many rows a part has that empty cells are filled in at once.
PART = 1_000_000


def fill(table, names, direction, within=()):
    """Empty cells take the nearest filled one above or below, within rows alike.

    Over all rows it is done in parts of rows one after the other, each beginning with the last filled cells before it.
    """
    order = F.asc("_row") if direction == "down" else F.desc("_row")
    keys = [table.cell(name) for name in dict.fromkeys(within)]
    places = [table.name_at(name) for name in names]
    df = table.df if keys else with_places(table.df, [order]).withColumn("_part", F.floor((F.col("_n") - 1) / PART))
    so_far = (
        Window.partitionBy(*(keys or ["_part"]))
        .orderBy(order if keys else F.asc("_n"))
        .rowsBetween(Window.unboundedPreceding, 0)
    )
    filled = {at: F.last(at, ignorenulls=True).over(so_far) for at in places}
    if keys:
        return table.on(
            df.select(*[c for c in df.columns if c not in filled], *[value.alias(at) for at, value in filled.items()])
        )
    lasts = (
        df.groupBy("_part")
        .agg(*[F.max_by(at, F.when(F.col(at).isNotNull(), F.col("_n"))).alias(at) for at in places])
        .collect()
    )
    held, starts = dict.fromkeys(places), []
    for row in sorted(lasts, key=lambda row: row["_part"]):
        starts.append((row["_part"], *held.values()))
        held = {at: held[at] if row[at] is None else row[at] for at in places}
    begin = {at: F.lit(None).cast(df.schema[at].dataType) for at in places}
    for part, *values in starts:
        for at, value in zip(places, values):
            if value is not None:
                begin[at] = F.when(F.col("_part") == part, F.lit(value)).otherwise(begin[at])
    return table.on(
        df.select(
            *[c for c in df.columns if c not in filled],
            *[F.coalesce(value, begin[at]).alias(at) for at, value in filled.items()],
        ).drop("_n", "_part")
    )
