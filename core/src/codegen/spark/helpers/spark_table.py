import datetime
import itertools

import numpy as np
import pandas as pd
from pyspark import StorageLevel
from pyspark.sql import DataFrame, SparkSession, Window
from pyspark.sql import functions as F
from pyspark.sql import types as T

from .cells import cells
from .column import column
from .each import each
from .follow import trace_moves
from .in_batches import in_batches
from .shown import shown
from .type_of import known_kinds
from .warn import count_rows, step_at_hand

SPARK_TYPES = {"integer": T.LongType(), "decimal": T.DoubleType(), "boolean": T.BooleanType()}
NUMBERS = itertools.count()


def begin_session():
    """A session of Spark in which names of columns are compared exactly."""
    made = SparkSession.builder.appName("fabula").getOrCreate()
    made.sparkContext.setLogLevel("ERROR")
    made.conf.set("spark.sql.caseSensitive", "true")
    made.conf.set("spark.sql.ansi.enabled", "false")
    made.conf.set("spark.sql.execution.arrow.pyspark.enabled", "true")
    return made


def session():
    return SparkSession.getActiveSession()


def held(df):
    """The frame kept on disk, since it is read more than once; its plan begins anew, so that plans do not double from step to step."""
    kept, spark = df.persist(StorageLevel.DISK_ONLY), session()
    rows = kept._jdf.queryExecution().toRdd()
    return DataFrame(spark._jsparkSession.internalCreateDataFrame(rows, kept._jdf.schema(), False), spark)


class Table:
    """A data frame of Spark with the names and types of its columns, in order.

    In `df` a column stands under a name of its own (`at`), and `_row` is a text by whose order the rows go.
    Moments are texts of ISO form there, which go in the order of time; lists are JSON.
    What looks at one row is put off (`changes`) until the frame is asked for, so that steps in a row are one pass.
    """

    def __init__(self, df, names, kinds, at, changes=()):
        self._df, self.columns, self.kinds, self._at, self.changes = (
            df,
            list(names),
            list(kinds),
            list(at),
            list(changes),
        )

    @property
    def df(self):
        self.settle()
        return self._df

    def after(self, change, names, kinds):
        """The table with a change more, put off like those before it."""
        step = Change(change, list(self.columns), list(self.kinds))
        return Table(self._df, names, kinds, [], [*self.changes, step])

    @property
    def at(self):
        self.settle()
        return self._at

    def settle(self):
        """Carries out what was put off."""
        if self.changes:
            self._df, self.changes, self._at = changed(self._df, self.changes, self.kinds)

    def place(self, name):
        return self.columns.index(name)

    def kind(self, name):
        return self.kinds[self.place(name)]

    def cell(self, name):
        return F.col(self.name_at(name))

    def name_at(self, name):
        """The name of a column in the frame."""
        return self.at[self.place(name)]

    def on(self, df):
        return Table(df, self.columns, self.kinds, self.at)

    def kept(self):
        return self.on(held(self.df))

    def copy(self):
        return self.on(self.df)

    def set_axis(self, names, axis):
        if self.changes:
            return self.after(lambda frame: frame.set_axis(names, axis=1), names, self.kinds)
        return Table(self.df, names, self.kinds, self.at)

    def __getitem__(self, names):
        places = [self.place(name) for name in names]
        kinds = [self.kinds[i] for i in places]
        if self.changes:
            return self.after(lambda frame: frame[names], names, kinds)
        return Table(self.df, names, kinds, [self.at[i] for i in places])

    def drop(self, columns):
        return self[[name for name in self.columns if name not in set(columns)]]

    def with_column(self, place, name, kind, value):
        """With a column more, at a place among the others."""
        at = new_name()
        df = self.df.withColumn(at, value)
        table = Table(df, self.columns, self.kinds, self.at)
        for listed, one in ((table.columns, name), (table.kinds, kind), (table.at, at)):
            listed.insert(place, one)
        return table

    def drop_duplicates(self, subset, keep):
        keys = [self.cell(name) for name in dict.fromkeys(subset)]
        order = F.asc("_row") if keep == "first" else F.desc("_row")
        numbered = self.df.withColumn("_n", F.row_number().over(Window.partitionBy(*keys).orderBy(order)))
        return self.on(numbered.filter("_n = 1").drop("_n"))


def new_name():
    return f"c{next(NUMBERS)}"


def spark_type(kind):
    return SPARK_TYPES.get(kind, T.StringType())


READERS = {
    "date": datetime.date.fromisoformat,
    "datetime": datetime.datetime.fromisoformat,
    "time": datetime.time.fromisoformat,
}


def from_spark(values, kind):
    """A column that came from Spark as the helpers take it."""
    if kind == "text":
        texts = values.to_numpy(dtype=object, copy=True)
        texts[pd.isna(texts) | (texts == "")] = None
        return pd.Series(texts, dtype=object)
    if kind not in SPARK_TYPES:
        values = values.astype(object).where(values.notna(), None)
    made = column(values, kind)
    return each(lambda v: None if v is None else READERS[kind](v), made) if kind in READERS else made


def to_spark(values, kind):
    """A column of the helpers as Spark takes it."""
    if kind in SPARK_TYPES:
        return column(cells(values), kind) if values.dtype == object else values
    if kind == "text":
        return values
    return each(lambda v: None if v is None else str(v) if isinstance(v, str) else shown(v), values)


def kind_told_by(values):
    return {"Int64": "integer", "float64": "decimal", "boolean": "boolean"}.get(str(values.dtype), "text")


class Change:
    """What a step does to a pandas frame of some rows: its function, and the names and types of columns before it."""

    def __init__(self, apply, names, kinds, repeats=False, figures=False):
        self.apply, self.names, self.kinds, self.repeats, self.figures = apply, names, kinds, repeats, figures

    def run(self, frame, order):
        """The frame after it, and the places of its rows in the order."""
        known_kinds.clear()
        known_kinds.update(zip(self.names, self.kinds))
        trace_moves.clear()
        made, rows = self.apply(frame), np.arange(len(frame))
        for move in trace_moves:
            rows = rows[np.array(list(move), dtype="int64")]
        if self.figures:
            return made.reset_index(drop=True), np.array([""] * len(made), dtype=object)
        if len(rows) != len(made):
            raise RuntimeError("a step left out or added rows and did not tell which")
        order = order[rows]
        if self.repeats:
            order = np.array(
                [f"{row}{n:08x}" for row, n in zip(order, pd.Series(rows).groupby(rows).cumcount())], dtype=object
            )
        return made.reset_index(drop=True), order


class Count:
    """Counts the rows that a step left."""

    def __init__(self, step):
        self.step = step

    def run(self, frame, order):
        count_rows(self.step, len(frame))
        return frame, order


def fields_of(places, kinds):
    return T.StructType(
        [T.StructField("_row", T.StringType())]
        + [T.StructField(at, spark_type(kind)) for at, kind in zip(places, kinds)]
    )


def changed(df, changes, kinds):
    """The frame after some changes, in one pass; no changes any more, and the names of its columns."""
    firsts = [change for change in changes if isinstance(change, Change)]
    if not firsts:
        return (
            df.mapInArrow(lambda batches: counted(batches, changes), df.schema),
            [],
            [c for c in df.columns if c != "_row"],
        )
    names, before = firsts[0].names, firsts[0].kinds
    columns = [c for c in df.columns if c != "_row"]
    places = [new_name() for _ in kinds]

    def run(batches):
        step_at_hand[0] = places[0] if places else ""
        for batch in batches:
            frame = pd.DataFrame(
                {name: from_spark(batch[at], kind) for name, at, kind in zip(names, columns, before)},
                index=range(len(batch)),
            )
            order = batch["_row"].to_numpy()
            for change in changes:
                frame, order = change.run(frame, order)
            result = {"_row": np.array(order, dtype=object)}
            for i, kind in enumerate(kinds):
                result[places[i]] = to_spark(frame.iloc[:, i].reset_index(drop=True), kind)
            yield pd.DataFrame(result, index=range(len(frame)))

    return in_batches(df, run, fields_of(places, kinds)), [], places


def counted(batches, changes):
    for batch in batches:
        for change in changes:
            count_rows(change.step, batch.num_rows)
        yield batch


def by_rows(table, change, kinds=None, repeats=False, figures=False):
    """The rows that `change` makes of a pandas frame of some rows at a time; `kinds` are types of new columns.

    With `repeats` a row may become several, with `figures` the rows are some of a kind of their own. What `change` moves or leaves out it tells by `follow`.
    """
    known = {**dict(zip(table.columns, table.kinds)), **(kinds or {})}
    if not table.changes:
        table = Table(table.df.select("_row", *table.at), table.columns, table.kinds, table.at)
    step = Change(change, list(table.columns), list(table.kinds), repeats, figures)
    sample, _ = step.run(
        pd.DataFrame(
            {name: from_spark(pd.Series([], dtype=object), kind) for name, kind in zip(table.columns, table.kinds)}
        ),
        np.array([], dtype=object),
    )
    made = list(sample.columns)
    made_kinds = [
        known[c]
        if kind_told_by(sample[c]) == "text" and c in known and known[c] not in SPARK_TYPES
        else kind_told_by(sample[c])
        for c in made
    ]
    return Table(table._df, made, made_kinds, [], [*table.changes, step])


def counting(table, step):
    """The table, whose rows are counted for a step when they pass."""
    if table.changes:
        return Table(table._df, table.columns, table.kinds, [], [*table.changes, Count(step)])
    return Table(table.df.select("_row", *table.at), table.columns, table.kinds, table.at, [Count(step)])


def entered(frame, kinds):
    """A table of a pandas frame that stands in the script."""
    at = [new_name() for _ in kinds]
    columns = [cells(to_spark(frame[name], kind)) for name, kind in zip(frame.columns, kinds)]
    rows = [(f"{i:012x}", *row) for i, row in enumerate(zip(*columns))]
    return Table(session().createDataFrame(rows, fields_of(at, kinds)), frame.columns, kinds, at)
