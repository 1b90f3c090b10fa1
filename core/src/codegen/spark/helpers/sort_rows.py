from pyspark.sql import Window
from pyspark.sql import functions as F

from .lower_of import natural_key
from .spark_table import held


def small_letters(cell):
    return F.lower(F.translate(cell, "İΣ", "iσ"))


def natural_text(texts):
    """Texts whose order is the natural one, but for ties."""
    return texts.map(lambda t: None if t is None else natural_key(t)[0]).astype(object)


def order_of(table, keys):
    """Expressions by which rows go: text by its small letters, then as it is; empty last either way."""
    expressions = []
    for name, way, *natural in keys:
        cell = table.cell(name)
        text = table.kind(name) in ("text", "list")
        parts = (
            ([F.pandas_udf(natural_text, "string")(cell)] if natural and table.kind(name) == "text" else [])
            + ([small_letters(cell)] if text else [])
            + [cell]
        )
        expressions += [F.asc_nulls_last(part) if way == "ascending" else F.desc_nulls_last(part) for part in parts]
    return expressions


def with_places(df, order, by=()):
    """The rows with `_n`, their place from 1 by an order within rows alike.

    Over all rows: they are sorted over many partitions, whose rows are counted first, so that each knows where it begins.
    """
    if by:
        return df.withColumn("_n", F.row_number().over(Window.partitionBy(*by).orderBy(*order)).cast("long"))
    place = F.monotonically_increasing_id()
    rows = (
        df.orderBy(*order)
        .withColumn("_part", F.shiftright(place, 33))
        .withColumn("_n", place.bitwiseAND(F.lit(2**33 - 1)))
    )
    rows = held(rows)
    before, starts = 0, []
    for part, count in sorted((row["_part"], row["count"]) for row in rows.groupBy("_part").count().collect()):
        starts += [F.lit(part).cast("long"), F.lit(before).cast("long")]
        before += count
    start = F.create_map(*starts)[F.col("_part")] if starts else F.lit(0)
    return rows.withColumn("_n", F.col("_n") + start + 1).drop("_part")


def row_text(place):
    return F.lpad(F.hex(place), 12, "0")


def sort_rows(table, keys):
    """Rows in order; equal ones keep theirs."""
    rows = with_places(table.df, order_of(table, keys) + [F.asc("_row")])
    return table.on(rows.withColumn("_row", row_text(F.col("_n"))).drop("_n"))
