/**
 * A program for spark-submit that copies the first rows of files that a cluster reads, or one row in so many, to this machine, the
 * lines as they are, and writes what it copied into samples.json. First rows are read by the driver; only a row in so many asks
 * the workers.
 */
export const rowSampleScript = String.raw`import argparse
import json
import os
import re
import sys

from pyspark.sql import SparkSession
from pyspark.sql import functions as F

PIECE = 1 << 20
# Files that cannot be cut by lines are copied whole where they are smaller.
MOST_BYTES = 64 << 20
MOST_FILES = 200
# The marks of UTF-16 at the start of a file.
WIDE = (b"\xff\xfe", b"\xfe\xff")
WHOLE = (".xlsx", ".xlsm", ".ods", ".json")


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("--path", action="append", default=[])
    parser.add_argument("--first", type=int)
    parser.add_argument("--one-in", type=int)
    parser.add_argument("--head", type=int)
    parser.add_argument("--to")
    given = parser.parse_args()
    spark = SparkSession.builder.getOrCreate()
    samples = []
    for number, path in enumerate(given.path):
        for place in files_of(spark, path):
            name = place.getName()
            file = f"{len(samples)}{os.path.splitext(name)[1]}"
            of = copy(spark, place, os.path.join(given.to, file), given)
            samples.append({"path": number, "name": name, "file": file, "of": of})
    with open(os.path.join(given.to, "samples.json"), "w", encoding="utf-8") as out:
        json.dump(samples, out)


def stop(sentence):
    """Ends the program with a sentence."""
    print(sentence, file=sys.stderr)
    sys.exit(6)


def system_of(spark, place):
    """The file system that a path of Hadoop is of."""
    return place.getFileSystem(spark._jsc.hadoopConfiguration())


def files_of(spark, path):
    """The files that a path, a pattern or a folder names, in order."""
    place = spark._jvm.org.apache.hadoop.fs.Path(path)
    system = system_of(spark, place)
    found = []
    for status in system.globStatus(place) or []:
        inside = system.listStatus(status.getPath()) if status.isDirectory() else [status]
        paths = [one.getPath() for one in inside if one.isFile()]
        found += [path for path in paths if not path.getName().startswith(("_", "."))]
    if not found:
        stop(f"The cluster finds no file {path}.")
    if len(found) > MOST_FILES:
        stop(f"{path} names {len(found):,} files; to look at, name {MOST_FILES} or fewer of them.")
    return sorted(found, key=lambda one: one.toString())


def copy(spark, place, to, given):
    """Copies a sample of a file; of how many rows it is, None where it has all."""
    name = place.getName().lower()
    if name.endswith(".parquet"):
        return copy_parquet(spark, place, to, given)
    rows = given.head if given.one_in else given.first
    start, whole = start_of(spark, place, rows, cut=not name.endswith(WHOLE))
    with open(to, "wb") as out:
        out.write(start)
        if whole or not given.one_in:
            return None if whole else given.first
        if start[:2] in WIDE:
            stop(f"{place.getName()} is UTF-16, so its first rows can be taken, not one in so many.")
        of, lines = one_in(spark, place, given.one_in, start.count(b"\n"))
        out.writelines(line + b"\n" for line in lines)
        return of


def start_of(spark, place, rows, cut):
    """The bytes of a file's first rows, and whether those are all of it."""
    system = system_of(spark, place)
    size = system.getFileStatus(place).getLen()
    if not cut and size > MOST_BYTES:
        stop(f"{place.getName()} cannot be cut by rows and is too large to be copied ({size / 1e6:,.0f} MB).")
    utils = spark._jvm.org.apache.commons.io.IOUtils
    stream = system.open(place)
    data = b""
    while len(data) < size:
        # as much again each time, so that what is held is looked through few times
        most = min(size, MOST_BYTES + PIECE) - len(data)
        data += bytes(utils.toByteArray(stream, min(max(PIECE, len(data)), most)))
        end = end_of_rows(data, rows) if cut else None
        if end is not None:
            stream.close()
            return data[:end], end == size
        if len(data) > MOST_BYTES and cut:
            stop(f"{rows:,} rows of {place.getName()} are more than can be copied. Choose fewer.")
    stream.close()
    return data, True


def open_after(line, inside):
    """Whether quotes are open behind a line; they open at the start of a cell (RFC 4180)."""
    at = line.find(b'"')
    while at >= 0:
        if inside and line[at + 1 : at + 2] == b'"':
            at += 1
        elif inside:
            inside = False
        else:
            inside = at == 0 or line[at - 1 : at] in (b",", b";", b"\t", b"|")
        at = line.find(b'"', at + 1)
    return inside


def end_of_rows(data, rows):
    """Where so many rows end, a line break in quotes being none; None where they go on behind the data."""
    at, inside = 0, False
    while rows > 0:
        end = data.find(b"\n", at) + 1
        if end == 0:
            return None
        inside = open_after(data[at:end], inside)
        at = end
        rows -= 0 if inside else 1
    return at + at % 2 if data[:2] in WIDE else at


def one_in(spark, place, many, skip):
    """How many lines a file has, and one in so many of them below the first ones."""
    text = spark.read.option("lineSep", "\n").text(re.sub(r"([\\{}\[\]*?])", r"\\\1", place.toString()))
    number = F.monotonically_increasing_id().bitwiseAND(F.lit(2**33 - 1))
    lines = text.select(F.col("_metadata.file_block_start").alias("block"), number.alias("n"), "value")
    quotes = F.length("value") - F.length(F.regexp_replace("value", '"', ""))
    opens = F.col("value").rlike('(^|[,;|\t])"') & (quotes % 2 == 1)
    count, over_lines = text.select(F.count(F.lit(1)), F.count(F.when(opens, 1))).first()
    if over_lines and not place.getName().lower().endswith((".jsonl", ".ndjson")):
        stop(f"Rows of {place.getName()} go on over several lines, so its first rows can be taken, not one in so many.")
    chosen = lines.where(((F.col("block") > 0) | (F.col("n") >= skip)) & ((F.col("n") - skip) % many == 0))
    chosen = chosen.select("block", "n", F.col("value").cast("binary").alias("value")).orderBy("block", "n")
    return count, (bytes(row["value"]) for row in chosen.toLocalIterator())


def copy_parquet(spark, place, to, given):
    """Copies rows of Parquet; of how many they are."""
    import pyarrow
    import pyarrow.parquet
    from pyspark.sql.pandas.types import to_arrow_schema

    frame = spark.read.parquet(place.toString())
    if given.first:
        chosen = frame.limit(given.first)
    else:
        chosen = frame.where(F.monotonically_increasing_id() % given.one_in == 0)
    rows = [row.asDict(recursive=True) for row in chosen.toLocalIterator()]
    pyarrow.parquet.write_table(pyarrow.Table.from_pylist(rows, to_arrow_schema(frame.schema)), to)
    of = frame.count()
    if len(rows) == of:
        return None
    return of if given.one_in else given.first


main()
`
