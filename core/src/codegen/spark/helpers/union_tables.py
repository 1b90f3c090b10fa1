from pyspark.sql import functions as F

from .free_name import free_name
from .kind_together import kind_together
from .rename_columns import rename_columns
from .spark_table import Table, new_name, spark_type
from .summarise import text_of


def as_kind(cell, kind, wanted):
    """A cell as a cell of another type that holds it."""
    if kind == wanted:
        return cell
    if wanted == "datetime":
        return F.concat(cell, F.lit("T00:00:00"))
    return text_of(cell, kind) if wanted == "text" else cell.cast(spark_type(wanted))


def union_tables(parts, shared=False, origin=None):
    """Tables under one another, by the names of their columns; what one lacks is empty."""
    parts = [(rename_columns(table, renames), name) for table, name, renames, *_ in parts]
    names = list(dict.fromkeys(c for table, _ in parts for c in table.columns))
    if shared:
        names = [n for n in names if all(n in table.columns for table, _ in parts)]
    kinds = [kind_together(table.kind(n) for table, _ in parts if n in table.columns) for n in names]
    places, frames = [new_name() for _ in names], []
    origin_at = new_name()
    for i, (table, title) in enumerate(parts):
        cells = [
            as_kind(table.cell(n), table.kind(n), kind) if n in table.columns else F.lit(None).cast(spark_type(kind))
            for n, kind in zip(names, kinds)
        ]
        row = F.concat(F.lit(f"{i:04x}"), F.col("_row")).alias("_row")
        frames.append(
            table.df.select(row, *[cell.alias(at) for cell, at in zip(cells, places)], F.lit(title).alias(origin_at))
        )
    df = frames[0]
    for frame in frames[1:]:
        df = df.unionByName(frame)
    result = Table(df, names, kinds, places)
    return (
        result
        if origin is None
        else Table(df, names + [free_name(origin, names)], kinds + ["text"], places + [origin_at])
    )
