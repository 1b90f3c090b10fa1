from pyspark.sql import functions as F

from .column_order import place
from .exact_sums import beside, exact_sums
from .free_name import free_name
from .spark_table import Table, new_name, spark_type
from .stop import stop
from .summarise import figures, text_of
from .warn import warn


def check_single(df, keys, at, name):
    """Stops where two values would meet in a cell."""
    twice = (
        df.filter(F.col(at).isNotNull())
        .groupBy(*keys)
        .agg(F.count(F.lit(1)).alias("n"), F.min(at).alias("a"), F.max(at).alias("b"))
        .filter("n > 1")
        .head(1)
    )
    if twice:
        stop(
            5,
            f"Two values of “{name}” meet in one cell: {twice[0]['a']} and {twice[0]['b']}. Choose a measure such as their sum, or another column that tells the rows apart.",
        )


def pivot(table, labels, values, by, found=None, gaps=None, before=None, after=None):
    """A column of each label; a row of each combination of the columns `by`."""
    by = list(dict.fromkeys(by))
    keys = [table.name_at(name) for name in by]
    table = table.kept()
    df = table.df.withColumn("_label", text_of(table.cell(labels), table.kind(labels)))
    rows = df.groupBy("_label").agg(F.count(F.lit(1)).alias("n"), F.min("_row").alias("_row")).collect()
    counts = {row["_label"]: row["n"] for row in sorted(rows, key=lambda row: row["_row"])}
    for label in counts if found is not None else []:
        if label not in found:
            warn(
                f"“{labels}” has “{'Empty' if label is None else label}” in {counts[label]} rows, of which no column is made."
            )
    found = list(counts) if found is None else found
    groups = df.groupBy(*keys).agg(F.min("_row").alias("_row"))
    single = [
        (("first" if how == "only" else "sum" if how == "share" else how), name, as_, kind, *more)
        for how, name, as_, kind, *more in values
    ]
    for how, name, *_ in values:
        if how == "only":
            check_single(df, keys + ["_label"], table.name_at(name), name)
    made = cells_of(table.on(df), keys, values, single)
    spread, names, kinds, places = [], list(by), [table.kind(name) for name in by], list(keys)
    at = place(by, before, after)
    for label in found:
        here = F.col("_label").isNull() if label is None else F.col("_label") == label
        for i, (_, _, as_, kind, *_more) in enumerate(values):
            target = new_name()
            held = F.max(F.when(here, F.struct(F.lit(1).alias("h"), F.col(f"m{i}").alias("v"))))
            spread.append(
                F.when(held.isNotNull(), held["v"]).otherwise(F.lit(gaps).cast(spark_type(kind))).alias(target)
            )
            wanted = ("Empty" if label is None else label) + ("" if len(values) == 1 else " " + as_)
            for column_, value in ((names, free_name(wanted, list(names))), (kinds, kind), (places, target)):
                column_.insert(at, value)
            at += 1
    result = beside(groups, made.groupBy(*keys).agg(*spread), keys) if spread else groups
    return Table(result.select(F.coalesce(F.col("_row"), F.lit("0")).alias("_row"), *places), names, kinds, places)


def cells_of(table, keys, values, single):
    """A row for each combination and label, with a figure of each measure."""
    cells = keys + ["_label"]
    made = figures(table, cells, single)
    for i, (how, name, *_) in enumerate(values):
        at = table.name_at(name) if name is not None else None
        if how == "only":
            one = table.df.filter(F.col(at).isNotNull()).groupBy(*cells).agg(F.first(at).alias("one"))
            made = beside(made.drop(f"m{i}"), one, cells).withColumnRenamed("one", f"m{i}")
        if how == "share":
            grand = exact_sums(table.df, [], [F.col(at)])
            made = (
                made.crossJoin(grand)
                .withColumn(f"m{i}", F.when(F.col("s0") != 0, F.col(f"m{i}") / F.col("s0")))
                .drop("s0")
            )
    return made
