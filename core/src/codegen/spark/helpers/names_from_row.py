from pyspark.sql import functions as F

from .some_rows import some_rows
from .summarise import text_of
from .table_names import names_for


def names_from_row(table, row):
    """That row gives the names; it and the rows above leave."""
    top = (
        table.df.orderBy(F.asc("_row"))
        .limit(row)
        .select("_row", *[text_of(table.cell(c), table.kind(c)).alias(at) for c, at in zip(table.columns, table.at)])
        .collect()
    )
    top = sorted(top, key=lambda one: one["_row"])
    texts = [top[row - 1][at] or "" for at in table.at] if len(top) == row else [""] * len(table.columns)
    return some_rows(table, skip=row).set_axis(names_for(texts, len(table.columns)), axis=1)
