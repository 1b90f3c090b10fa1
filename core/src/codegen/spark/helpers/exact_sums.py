import math
from fractions import Fraction

from pyspark.sql import functions as F


def total_of_parts(parts):
    """The sum of what `exact_sums` parted, rounded once."""

    def one(text):
        if not text:
            return None
        total = Fraction(0)
        for part in text.split(";"):
            scale, low, middle, high = map(int, part.split(" "))
            total += (low + (middle << 30) + (high << 60)) * Fraction(2) ** (32 * scale)
        try:
            return float(total)
        except OverflowError:
            return math.inf

    return parts.map(one).astype("float64")


def exact_sums(df, keys, values):
    """Sums of decimals by keys, exact until they are rounded once: columns s0, s1 … beside the keys, which go by their names.

    Each value is a whole number of at most 87 bits times a power of 2^32; numbers of one power are added in three parts of 30 bits.
    """
    each = F.explode(
        F.array(*[F.struct(F.lit(i).alias("i"), value.cast("double").alias("x")) for i, value in enumerate(values)])
    )
    rows = df.select(*keys, each.alias("_v")).select(*keys, "_v.i", "_v.x").filter("x is not null")
    scale = F.when(F.col("x") == 0, 0).otherwise(F.floor((F.floor(F.log2(F.abs("x"))) - 54) / 32)).cast("long")
    half = F.pow(F.lit(2.0), -16 * F.col("e"))
    rows = rows.withColumn("e", scale).withColumn("y", F.col("x") * half * half)
    rows = rows.withColumn("high", F.floor(F.col("y") / 2.0**60)).withColumn(
        "rest", F.col("y") - F.col("high") * 2.0**60
    )
    rows = rows.withColumn("middle", F.floor(F.col("rest") / 2.0**30)).withColumn(
        "low", (F.col("rest") - F.col("middle") * 2.0**30).cast("long")
    )
    parts = rows.groupBy(*keys, "i", "e").agg(*[F.sum(part).alias(part) for part in ("low", "middle", "high")])
    text = F.concat_ws(" ", "e", "low", "middle", "high")
    total = F.pandas_udf(total_of_parts, "double")
    one = [
        total(F.concat_ws(";", F.collect_list(F.when(F.col("i") == i, text)))).alias(f"s{i}")
        for i in range(len(values))
    ]
    return parts.groupBy(*keys).agg(*one)


def beside(left, right, keys):
    """The columns of another frame by equal keys, empty ones too; both have one row for each key."""
    if not keys:
        return left.crossJoin(right)
    renamed = right.select(
        *[F.col(key).alias(f"_k{i}") for i, key in enumerate(keys)], *[c for c in right.columns if c not in keys]
    )
    met = left.join(renamed, [F.col(key).eqNullSafe(F.col(f"_k{i}")) for i, key in enumerate(keys)], "left")
    return met.drop(*[f"_k{i}" for i in range(len(keys))])
