import pandas as pd

from .spark_table import Table, entered
from .summarise import text_of
from .union_tables import union_tables


def names_to_row(table):
    """The names become the first row, and every column text."""
    names = [f"Column {i + 1}" for i in range(len(table.columns))]
    top = entered(
        pd.DataFrame({name: pd.Series([c], dtype=object) for name, c in zip(names, table.columns)}),
        ["text"] * len(names),
    )
    df = table.df.select(
        "_row", *[text_of(table.cell(c), table.kind(c)).alias(at) for c, at in zip(table.columns, table.at)]
    )
    rest = Table(df, names, ["text"] * len(names), table.at)
    return union_tables([(top, "", {}), (rest, "", {})])
