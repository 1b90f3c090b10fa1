import sys

from pyspark.sql import functions as F

from .exact_sums import exact_sums
from .shown import shown
from .spark_table import by_rows
from .stop import stop


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
def total_of(table, name):
    return exact_sums(table.df, [], [table.cell(name)]).collect()[0]["s0"] or 0.0
def check_rows(say, figure, at_least=None, at_most=None, stop_here=False):
    """Told where the figure is out of its limits, and where so wished all stops."""
    if (at_least is None or figure >= at_least) and (at_most is None or figure <= at_most):
        return
    if stop_here:
        stop(5, f"A check stops the run: {say} ({shown(float(figure))})")
    print(f"A check does not hold: {say} ({shown(float(figure))})", file=sys.stderr)
