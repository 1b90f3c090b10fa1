from pyspark.sql import functions as F

from .spark_table import by_rows


def row_count(table):
    return table.df.count()


def rows_where(table, condition):
    """How many rows a condition of a pandas frame holds for."""
    held = by_rows(table, lambda frame: frame.assign(held=condition(frame).astype("boolean"))[["held"]])
    return held.df.filter(held.cell("held")).count()


def repeated_rows(table, names):
    """How many rows share their values in these columns with another."""
    groups = table.df.groupBy(*[table.cell(name) for name in dict.fromkeys(names)]).count().filter("count > 1")
    return groups.agg(F.sum("count").alias("n")).collect()[0]["n"] or 0
