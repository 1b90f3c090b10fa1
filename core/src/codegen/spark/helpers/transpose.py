import pandas as pd
from pyspark.sql import functions as F

from .free_name import free_name
from .kind_together import kind_together
from .spark_table import entered, from_spark
from .stop import stop
from .summarise import text_of
from .union_tables import as_kind

# Rows become columns, of which a table has so many at most.
MOST = 16_000


def transpose(table, names=None):
    """Rows become columns; the old names become the column Name."""
    rest = [c for c in table.columns if c != names]
    kind = kind_together(table.kind(c) for c in rest)
    title = F.lit(None).cast("string") if names is None else text_of(table.cell(names), table.kind(names))
    cells = [as_kind(table.cell(c), table.kind(c), kind).alias(f"r{i}") for i, c in enumerate(rest)]
    rows = sorted(
        table.df.select("_row", title.alias("_title"), *cells).limit(MOST + 1).collect(), key=lambda row: row["_row"]
    )
    if len(rows) > MOST:
        stop(5, f"More than {MOST:,} rows would become as many columns. Keep fewer rows first.")
    made, kinds = {"Name": pd.Series(rest, dtype=object)}, ["text"]
    for n, row in enumerate(rows):
        name = free_name(f"Column {n + 1}" if row["_title"] is None else row["_title"], list(made))
        made[name] = from_spark(pd.Series([row[f"r{i}"] for i in range(len(rest))], dtype=object), kind)
        kinds.append(kind)
    return entered(pd.DataFrame(made, index=range(len(rest))), kinds)
