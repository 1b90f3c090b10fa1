import pandas as pd
from pyspark.sql import functions as F

from .exact_sums import beside, exact_sums
from .free_name import free_name
from .list_items import item_json
from .max_whole import MAX_WHOLE
from .shown import shown
from .sort_rows import order_of, small_letters, with_places
from .spark_table import Table, from_spark, new_name, spark_type


def text_of(cell, kind):
    """A cell as text, as CSV writes it."""
    if kind == "decimal":
        return F.pandas_udf(
            lambda x: x.map(lambda v: None if pd.isna(v) else shown(float(v))).astype(object), "string"
        )(cell)
    return cell.cast("string")


def json_of(cell, kind):
    """A cell as an item of a list."""

    def items(x):
        return from_spark(x, kind).map(lambda v: None if pd.isna(v) else item_json(v)).astype(object)

    return F.pandas_udf(items, "string")(cell)


def whole_sum(cell):
    total = F.sum(cell.cast("decimal(38,0)"))
    return F.when(F.abs(total) <= MAX_WHOLE, total.cast("long"))


def in_order(texts, place):
    """Texts of the rows of a group in the order of `place`, empty ones left out."""
    pairs = F.array_sort(F.collect_list(F.when(texts.isNotNull(), F.struct(place, texts.alias("t")))))
    return F.transform(pairs, lambda pair: pair["t"])


def simple_figure(how, cell, kind, place, separator):
    """An aggregate that Spark has exactly."""
    some = F.count(cell) > 0 if cell is not None else None
    if how == "count":
        return F.count(F.lit(1))
    if how == "filled":
        return F.count(cell)
    if how == "distinct":
        return F.countDistinct(cell)
    if how in ("first", "last"):
        return (F.min_by if how == "first" else F.max_by)(cell, place)
    if how == "list":
        return F.concat(F.lit("["), F.concat_ws(",", in_order(json_of(cell, kind), place)), F.lit("]"))
    if how == "join":
        return F.when(some, F.array_join(in_order(text_of(cell, kind), place), separator))
    if how in ("any", "every"):
        return (F.max if how == "any" else F.min)(cell)
    if kind in ("text", "list"):
        order = F.when(cell.isNotNull(), F.struct(small_letters(cell), cell))
        return (F.min_by if how == "min" else F.max_by)(cell, order)
    return (F.min if how == "min" else F.max)(cell)


def medians(df, keys, at):
    """The middle of each group, or the mean of the two in the middle."""
    known = df.filter(F.col(at).isNotNull())
    counts = known.groupBy(*keys).agg(F.count(F.lit(1)).alias("_count"))
    placed = beside(with_places(known, [F.asc(at)], keys), counts, keys)
    middle = placed.filter(
        (F.col("_n") == F.floor((F.col("_count") + 1) / 2)) | (F.col("_n") == F.floor(F.col("_count") / 2) + 1)
    )
    return middle.groupBy(*keys).agg(((F.min(at) + F.max(at)) / 2).alias("m"))


def deviations(df, keys, at):
    """The deviation of a sample in each group, of the differences from its first value, so that equal values have none."""
    known = df.select(*keys, F.col(at).cast("double").alias("x"), "_row").filter("x is not null")
    firsts = known.groupBy(*keys).agg(F.min_by("x", "_row").alias("x0"), F.count(F.lit(1)).alias("n"))
    off = beside(known, firsts, keys).withColumn("x", F.col("x") - F.col("x0"))
    means = beside(firsts, exact_sums(off, keys, [F.col("x")]), keys).select(
        *keys, (F.col("s0") / F.col("n")).alias("mean")
    )
    squares = exact_sums(beside(off, means, keys), keys, [F.pow(F.col("x") - F.col("mean"), F.lit(2))])
    return beside(firsts, squares, keys).select(
        *keys, F.when(F.col("n") > 1, F.sqrt(F.col("s0") / (F.col("n") - 1))).alias("m")
    )


def figures(table, keys, measures):
    """A frame of `keys` (columns by their names in it), `_row` of the first row of each group, and a column for each measure."""
    several = any(how in ("sum", "share", "mean", "median", "deviation") for how, *_ in measures)
    table = table.kept() if several else table
    df, asked, sums, late = table.df, [], [], []
    for i, (how, name, _, kind, *more) in enumerate(measures):
        options = more[0] if more else {}
        cell = None if name is None else table.cell(name)
        source = None if name is None else table.kind(name)
        place = F.col("_row")
        if "order" in options:
            at = new_name()
            ordered = with_places(df, order_of(table, options["order"]) + [F.asc("_row")], keys)
            df, place = ordered.withColumnRenamed("_n", at), F.col(at)
        at = f"m{i}"
        if how in ("sum", "share") and source == "integer":
            asked.append(whole_sum(cell).alias(at))
        elif how in ("sum", "share", "mean"):
            sums.append((at, cell))
            asked.append(F.count(cell).alias(f"n{i}"))
        elif how in ("median", "deviation"):
            late.append((at, (medians if how == "median" else deviations)(df, keys, table.name_at(name))))
        else:
            asked.append(simple_figure(how, cell, source, place, options.get("separator", ", ")).alias(at))
    made = df.groupBy(*keys).agg(F.min("_row").alias("_row"), *asked)
    if sums:
        totals = exact_sums(df, keys, [cell for _, cell in sums])
        made = beside(made, totals, keys)
        for i, (at, _) in enumerate(sums):
            made = made.withColumnRenamed(f"s{i}", at)
    for at, middle in late:
        made = beside(made, middle, keys).withColumnRenamed("m", at)
    return finished(made, measures)


def finished(made, measures):
    """Figures that are made of sums: means and shares; what is out of range is empty."""
    for i, (how, _, _, kind, *_more) in enumerate(measures):
        at, n = f"m{i}", f"n{i}"
        if how == "mean":
            made = made.withColumn(at, F.col(at) / F.col(n))
        if how == "share":
            made = made.crossJoin(exact_sums(made, [], [F.col(at)]))
            made = made.withColumn(at, F.when(F.col("s0") != 0, F.col(at) / F.col("s0"))).drop("s0")
        if kind == "decimal":
            made = made.withColumn(at, F.when(F.abs(F.col(at)) <= 1.7976931348623157e308, F.col(at) + 0.0))
        if kind in ("integer", "boolean", "decimal"):
            made = made.withColumn(at, F.col(at).cast(spark_type(kind)))
    return made


def summarise(table, by, measures):
    """One row per group, in the order of their first rows."""
    by = list(dict.fromkeys(by))
    keys = [table.name_at(name) for name in by]
    made = figures(table, keys, measures)
    names = list(by)
    for _, _, wanted, *_ in measures:
        names.append(free_name(wanted, names))
    places = [new_name() for _ in measures]
    row = F.coalesce(F.col("_row"), F.lit("0"))
    df = made.select(row.alias("_row"), *keys, *[F.col(f"m{i}").alias(place) for i, place in enumerate(places)])
    return Table(df, names, [table.kind(name) for name in by] + [kind for _, _, _, kind, *_ in measures], keys + places)
