import os
from urllib.parse import unquote

from pyspark.sql import functions as F

from .cast import cast
from .free_name import free_name
from .spark_table import Table, by_rows, new_name, session, spark_type
from .table_names import known_names

OWN_KINDS = {
    "tinyint": "integer",
    "smallint": "integer",
    "int": "integer",
    "bigint": "integer",
    "float": "decimal",
    "double": "decimal",
    "boolean": "boolean",
    "date": "date",
    "timestamp_ntz": "datetime",
    "timestamp": "datetime",
}


def cell_of(name, kind, own):
    """A cell of Parquet as tables hold it."""
    cell = F.col(name)
    if own.startswith(("array", "struct", "map")):
        return F.to_json(cell)
    if kind == "datetime":
        return F.concat(
            F.date_format(cell, "yyyy-MM-dd'T'HH:mm:ss"),
            F.when(F.date_format(cell, "SSS") != "000", F.date_format(cell, ".SSS")).otherwise(F.lit("")),
        )
    text = cell.cast(spark_type(kind))
    return F.when(text != "", text) if kind == "text" else text


def open_parquet(paths, types, decimal, group, file_column, sheet_column, known):
    """Files of Parquet, stacked by column name; numbers, moments and lists keep their types unless others are told."""
    df = session().read.option("mergeSchema", "true").parquet(*paths)
    names = list(df.columns)
    owns = [field.dataType.simpleString() for field in df.schema.fields]
    kinds = [
        "list" if own.startswith("array") else "decimal" if own.startswith("decimal") else OWN_KINDS.get(own, "text")
        for own in owns
    ]
    places = [new_name() for _ in names]
    row = F.concat(F.col("_metadata.file_path"), F.lpad(F.hex(F.col("_metadata.row_index")), 12, "0"))
    cells = [
        cell_of(f"`{name.replace('`', '``')}`", kind, own).alias(at)
        for name, kind, own, at in zip(names, kinds, owns, places)
    ]
    base = F.element_at(F.split(F.col("_metadata.file_path"), "/"), -1)
    base = F.udf(lambda name: unquote(os.path.basename(name)), "string")(base)
    extra = [(name, value) for name, value in ((file_column, base), (sheet_column, F.lit(None).cast("string"))) if name]
    beside = [new_name() for _ in extra]
    df = df.select(row.alias("_row"), *cells, *[value.alias(at) for (_, value), at in zip(extra, beside)])
    own_names = known_names(names, known)
    table = Table(
        df,
        own_names + [free_name(name, own_names) for name, _ in extra],
        kinds + ["text"] * len(extra),
        places + beside,
    )
    wanted = {
        name: kind if isinstance(kind, tuple) else (kind, None)
        for name, kind in (types if isinstance(types, dict) else {}).items()
    }
    changed = {name: how for name, how in wanted.items() if name in table.columns and table.kind(name) != how[0]}
    if not changed:
        return table

    def retyped(frame):
        return frame.assign(
            **{
                name: cast(frame[name], kind, formats=formats, decimal=decimal, group=group)
                for name, (kind, formats) in changed.items()
            }
        )

    return by_rows(table, retyped, {name: kind for name, (kind, _) in changed.items()})
