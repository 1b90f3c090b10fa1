from pyspark.sql import functions as F

from .free_name import free_name
from .sort_rows import small_letters, with_places
from .spaces import SPACES
from .spark_table import Table, held, new_name, spark_type
from .stop import stop
from .warn import warn


def join_tables(left, right, how, on, ignore_case=False, trim=False, bring=None, prefix="", matches="all"):
    """Rows in the order of the left table, then of the right; rows only of the right last. Empty keys match nothing."""

    def key(table, name):
        cell = table.cell(name)
        if table.kind(name) == "text":
            cell = F.expr(f"btrim({key_name(table, name)}, {sql_text(SPACES)})") if trim else cell
            cell = small_letters(cell) if ignore_case else cell
            return F.when(cell != "", cell)
        return cell

    ours, theirs = renamed(left), renamed(right)
    a = held(ours.df).withColumnRenamed("_row", "_left")
    b = held(theirs.df).withColumnRenamed("_row", "_right")
    names = [new_name() for _ in on]
    for at, (l, r) in zip(names, on):
        number = {left.kind(l), right.kind(r)} == {"integer", "decimal"}
        a = a.withColumn(f"{at}l", key(ours, l).cast("double") if number else key(ours, l))
        b = b.withColumn(f"{at}r", key(theirs, r).cast("double") if number else key(theirs, r))
    if how == "cross":
        met = a.crossJoin(b)
    else:
        met = matched(a, b, names, how, matches, on)
    row = F.when(F.col("_left").isNull(), F.concat(F.lit("1"), F.col("_right"))).otherwise(
        F.concat(F.lit("0"), F.col("_left"), F.coalesce(F.col("_right"), F.lit("")))
    )
    met = met.withColumn("_row", row)
    return joined_columns(met, ours, theirs, how, dict(on), bring, prefix)


def key_name(table, name):
    return table.name_at(name)


def sql_text(text):
    return "'" + text.replace("\\", "\\\\").replace("'", "\\'") + "'"


def renamed(table):
    """The table with names of columns in Spark that no other frame has, as a table may be joined with itself."""
    at = [new_name() for _ in table.at]
    return Table(
        table.df.select("_row", *[F.col(old).alias(new) for old, new in zip(table.at, at)]),
        table.columns,
        table.kinds,
        at,
    )


def matched(a, b, names, how, matches, on):
    """Rows with those of the other table that have the same keys."""
    keys = ", ".join(one for one, _ in on)
    by = [f"{at}r" for at in names]
    if matches != "all":
        b = with_places(b, [F.asc("_right")], by)
        if matches == "one":
            stop_at_second(a, b, names, keys)
        alone = F.lit(False)
        for at in by:
            alone = alone | F.col(at).isNull()
        firsts = b.filter((F.col("_n") == 1) | alone).drop("_n")
        if how in ("right", "full", "right-only"):
            others = b.filter((F.col("_n") > 1) & ~alone).drop("_n")
        b = firsts
    condition = F.lit(True)
    for at in names:
        condition = condition & (F.col(f"{at}l") == F.col(f"{at}r"))
    ways = {"left": "left", "inner": "inner", "right": "right", "full": "full", "left-only": "left_anti"}
    if how == "right-only" or (matches != "all" and how in ("right", "full")):
        whole = b if matches == "all" else b.unionByName(others)
        lost = whole.join(a.select(*[f"{at}l" for at in names]).distinct(), condition, "left_anti")
        if how == "right-only":
            return with_columns_of(lost, a)
        met = a.join(b, condition, "left" if how == "full" else "inner")
        return met.unionByName(with_columns_of(lost, a))
    met = a.join(b, condition, ways[how])
    if how == "left-only":
        return with_columns_of(met, b)
    if matches == "all":
        tell_repeats(a, b, names, keys)
    return met


def with_columns_of(df, other):
    """With the columns of another frame, empty."""
    return df.select(
        "*",
        *[
            F.lit(None).cast(field.dataType).alias(field.name)
            for field in other.schema.fields
            if field.name not in df.columns
        ],
    )


def key_counts(a, b, names):
    """For keys of both frames how many rows each has of them."""
    l = a.groupBy(*[F.col(f"{at}l").alias(at) for at in names]).agg(F.count(F.lit(1)).alias("l"))
    r = b.groupBy(*[F.col(f"{at}r").alias(at) for at in names]).agg(F.count(F.lit(1)).alias("r"))
    return l.join(r, names)


def tell_repeats(a, b, names, keys):
    more = key_counts(a, b, names).agg(F.sum(F.col("l") * (F.col("r") - 1)).alias("n")).collect()[0]["n"] or 0
    if more > 0:
        warn(f"Matching by {keys} makes {more} more rows by repeated keys.")


def stop_at_second(a, b, names, keys):
    twice = key_counts(a, b, names).filter("r > 1").head(1)
    if twice:
        stop(
            5,
            f"A row matches {twice[0]['r']} rows by {keys}, and only one match is allowed. Take the first, or make the rows there one of each.",
        )


def joined_columns(met, ours, theirs, how, on, bring, prefix):
    """The columns of both; for right and full joins the keys are of whichever side has a row."""
    names, kinds, cells = [], [], []
    if how != "right-only":
        for name in ours.columns:
            cell, kind = ours.cell(name), ours.kind(name)
            if how in ("right", "full") and name in on:
                kind = "decimal" if {kind, theirs.kind(on[name])} == {"integer", "decimal"} else kind
                cell = F.when(F.col("_left").isNull(), theirs.cell(on[name]).cast(spark_type(kind))).otherwise(
                    cell.cast(spark_type(kind))
                )
            names.append(name)
            kinds.append(kind)
            cells.append(cell)
    if how != "left-only":
        for name in (
            bring if bring is not None else [c for c in theirs.columns if how == "right-only" or c not in on.values()]
        ):
            names.append(free_name(prefix + name, names))
            kinds.append(theirs.kind(name))
            cells.append(theirs.cell(name))
    places = [new_name() for _ in names]
    return Table(met.select("_row", *[cell.alias(at) for cell, at in zip(cells, places)]), names, kinds, places)
