from pyspark.sql import functions as F

from .column_order import place
from .free_name import free_name
from .sort_rows import with_places


def numbered(table, name, start, within=(), before=None, after=None):
    """The place of each row, within rows alike, as a column."""
    placed = table.on(with_places(table.df, [F.asc("_row")], [table.cell(one) for one in dict.fromkeys(within)]))
    number = F.col("_n") + (start - 1)
    if name in table.columns:
        made = placed.with_column(table.place(name), name, "integer", number)
        at = made.at[table.place(name)]
        kinds = ["integer" if c == name else kind for c, kind in zip(table.columns, table.kinds)]
        return type(table)(
            made.df.drop("_n"),
            table.columns,
            kinds,
            [at if c == name else old for c, old in zip(table.columns, table.at)],
        )
    made = placed.with_column(place(table.columns, before, after), free_name(name, table.columns), "integer", number)
    return made.on(made.df.drop("_n"))
