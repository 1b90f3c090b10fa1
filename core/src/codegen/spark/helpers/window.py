import pandas as pd
from pyspark.sql import Window
from pyspark.sql import functions as F

from .column_order import place
from .exact_sums import beside, exact_sums
from .free_name import free_name
from .in_batches import in_batches
from .sort_rows import order_of, with_places
from .spark_table import Table, held, spark_type
from .summarise import figures

POSITIONAL = ("rank", "dense-rank", "row-number", "running-sum", "previous", "next")


def group_text(keys):
    """A text for each combination of the cells of some columns."""
    return F.concat_ws(
        "\x00", *[F.coalesce(F.concat(F.lit("="), F.col(key).cast("string")), F.lit("")) for key in keys]
    )


def running_sums(df, keys, at):
    """The sum so far of a column by `_n`, with what rounding loses added (Neumaier), within rows of equal keys.

    Over all rows the sum of the parts before is added to each part.
    """

    def run(batches):
        group, total, lost, begun = None, 0.0, 0.0, False
        for batch in batches:
            made = []
            for key, x in zip(batch["_group"], batch[at]):
                if key != group:
                    group, total, lost, begun = key, 0.0, 0.0, False
                if not pd.isna(x):
                    after = total + x
                    lost += (total - after) + x if abs(total) >= abs(x) else (x - after) + total
                    total, begun = after, True
                made.append(total + lost if begun else None)
            yield pd.DataFrame({"_n": batch["_n"], "_group": batch["_group"], "m": pd.Series(made, dtype="float64")})

    rows = df.select("_n", group_text(keys).alias("_group"), F.col(at).cast("double").alias(at))
    if keys:
        sorted_ = rows.repartition("_group").sortWithinPartitions("_group", "_n")
        return in_batches(sorted_, run, "_n long, _group string, m double")
    parts = rows.withColumn("_group", F.floor(F.col("_n") / 1_000_000).cast("string"))
    totals = exact_sums(parts, ["_group"], [F.col(at)]).collect()
    before, starts = 0.0, {}
    for row in sorted(totals, key=lambda row: int(row["_group"])):
        starts[row["_group"]] = before
        before += row["s0"]
    begun = {group for group in starts if int(group) > min(map(int, starts))}
    made = in_batches(
        parts.repartition("_group").sortWithinPartitions("_group", "_n"), run, "_n long, _group string, m double"
    )
    start = (
        F.create_map(*[F.lit(v) for pair in starts.items() for v in pair])[F.col("_group")] if starts else F.lit(0.0)
    )
    later = F.col("_group").isin(list(begun)) if begun else F.lit(False)
    return made.withColumn("m", F.when(later, F.coalesce(F.col("m"), F.lit(0.0)) + start).otherwise(F.col("m")))


def with_ranks(table, placed, keys, order, how):
    """The rank of each row by an order, equal rows sharing one; 1 where there is no order."""
    if order is None:
        return placed.withColumn("m", F.lit(1))
    if keys:
        ranks = (F.rank() if how == "rank" else F.dense_rank()).over(
            Window.partitionBy(*keys).orderBy(*order_of(table, order))
        )
        return placed.withColumn("m", ranks)
    ties = [table.name_at(name) for name, *_ in order]
    firsts = placed.groupBy(*ties).agg(F.min("_n").alias("m"))
    if how == "dense-rank":
        firsts = (
            with_places(firsts.withColumnRenamed("m", "_first"), [F.asc("_first")])
            .drop("_first")
            .withColumnRenamed("_n", "m")
        )
    return beside(placed, firsts, ties)


def positional(table, placed, keys, order, measure):
    """A figure that goes by the order of the rows, which `_n` numbers within equal keys: the frame with a column `m` more."""
    how, name, _, _, more = measure
    at = None if name is None else table.name_at(name)
    if how == "row-number":
        return placed.withColumn("m", F.col("_n"))
    if how in ("rank", "dense-rank"):
        return with_ranks(table, placed, keys, order, how)
    if how == "running-sum":
        made = running_sums(placed, keys, at).select("_n", *(["_group"] if keys else []), "m")
        return (
            placed.withColumn("_group", group_text(keys)).join(made, ["_group", "_n"]).drop("_group")
            if keys
            else placed.join(made, "_n")
        )
    offset = more.get("offset", 1) * (1 if how == "previous" else -1)
    if keys:
        move = F.lag(at, offset) if offset > 0 else F.lead(at, -offset)
        return placed.withColumn("m", move.over(Window.partitionBy(*keys).orderBy("_n")))
    return placed.join(placed.select((F.col("_n") + offset).alias("_n"), F.col(at).alias("m")), "_n", "left")


def window(table, by, order, measures, before=None, after=None):
    """The same figure beside every row of its group; rows stay in place."""
    keys, table = [table.name_at(name) for name in dict.fromkeys(by)], table.kept()
    by_order = [measure for measure in measures if measure[0] in POSITIONAL]
    df = table.df
    if by_order:
        rows = (order_of(table, order) if order is not None else []) + [F.asc("_row")]
        df = held(with_places(df, rows, keys))
    whole = [
        (
            ("sum" if how == "share" else how),
            name,
            "m",
            table.kind(name) if how == "share" else kind,
            dict(more, **({"order": order} if order and how in ("first", "last") else {})),
        )
        for how, name, _, kind, more in measures
        if how not in POSITIONAL
    ]
    if whole:
        df = beside(df, figures(table, keys, whole).drop("_row"), keys)
    at, result, of_group = place(table.columns, before, after), table.on(df), 0
    for measure in measures:
        how, name, wanted, kind, _ = measure
        if how in POSITIONAL:
            df, value = positional(table, df, keys, order, measure), F.col("m")
        else:
            value, of_group = F.col(f"m{of_group}"), of_group + 1
            value = F.when(value != 0, table.cell(name) / value) if how == "share" else value
        result = Table(df, result.columns, result.kinds, result.at).with_column(
            at, free_name(wanted, list(result.columns)), kind, value.cast(spark_type(kind))
        )
        df = result.df.drop("m")
        at += 1
    return result.on(df.select("_row", *result.at))
