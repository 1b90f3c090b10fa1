import uuid

import pandas as pd
from pyspark.sql import functions as F

from .cells import cells
from .shown import shown
from .spark_table import by_rows, session
from .stop import stop
from .write_csv import csv_cell


def as_lines(frame):
    """A column of lines of CSV."""
    columns = [["" if v is None else csv_cell(shown(v)) for v in cells(frame[c])] for c in frame.columns]
    return pd.DataFrame({"line": pd.Series([",".join(row) for row in zip(*columns)], dtype=object)})


def write_table(table, path):
    """Rows in order as one CSV file (UTF-8, comma, LF, quotes only where needed, empty is nothing), or as a folder of Parquet where the path ends with /."""
    if path.endswith("/"):
        types = {"date": "date", "datetime": "timestamp_ntz"}
        ordered = table.df.orderBy(F.asc("_row"))
        named = [
            table.cell(c).cast(types.get(kind, ordered.schema[at].dataType)).alias(c)
            for c, kind, at in zip(table.columns, table.kinds, table.at)
        ]
        ordered.select(*named).write.mode("overwrite").parquet(path)
        return
    lines = by_rows(table, as_lines)
    parts = f"{path}.{uuid.uuid4().hex}.parts"
    lines.df.orderBy(F.asc("_row")).select(lines.cell("line").alias("value")).write.text(parts)
    merge(parts, path, ",".join(csv_cell(c) for c in table.columns) + "\n")


def merge(parts, path, head):
    """The files of a folder one after the other as one file, as a stream; the folder goes."""
    context = session().sparkContext
    hadoop, conf = context._jvm.org.apache.hadoop, context._jsc.hadoopConfiguration()
    place = hadoop.fs.Path(parts)
    system = place.getFileSystem(conf)
    made = hadoop.fs.Path(f"{parts}.csv")
    out = system.create(made, True)
    out.write(head.encode("utf-8"))
    for status in sorted(system.listStatus(place), key=lambda one: one.getPath().getName()):
        if status.getPath().getName().startswith("part-"):
            piece = system.open(status.getPath())
            hadoop.io.IOUtils.copyBytes(piece, out, 1 << 20, False)
            piece.close()
    out.close()
    system.delete(place, True)
    target = hadoop.fs.Path(path)
    system.delete(target, False)
    if not system.rename(made, target):
        stop(6, f"{path} cannot be written.")
