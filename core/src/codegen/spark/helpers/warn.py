import sys

from pyspark import AccumulatorParam, TaskContext

from .stop import stop


class Counts(AccumulatorParam):
    """Counts by step, column, type and partition; a partition that is worked through again counts once."""

    def zero(self, value):
        return {}

    def addInPlace(self, a, b):
        for key, n in b.items():
            a[key] = max(a.get(key, 0), n)
        return a


# Accumulators of `Counts`, once `main` has begun, and in a task what it counted so far, under the step at hand.
unread = []
rows_left = []
so_far = {}
step_at_hand = [""]


def warn(sentence):
    """Says on standard error what a reader should look at; with --strict the script stops there."""
    if "--strict" in sys.argv[1:]:
        stop(4, sentence)
    print(sentence, file=sys.stderr)


def add_count(counts, count, *key):
    """Adds to a count of this task; outside of tasks nothing is counted."""
    task = TaskContext.get()
    if task is not None:
        key = (*key, task.partitionId())
        attempt = (task.taskAttemptId(), key)
        so_far[attempt] = so_far.get(attempt, 0) + int(count)
        counts[0].add({key: so_far[attempt]})


def warn_unread(count, name, kind):
    """Counts cells that did not read as the type of their column; `tell_unread` says how many."""
    if count > 0:
        add_count(unread, count, step_at_hand[0], name, kind)


def count_rows(step, count):
    """Counts rows that a step left."""
    add_count(rows_left, count, step)


def tell_unread():
    """Says how many cells of each column the tasks could not read."""
    counts = {}
    for (step, name, kind, _), n in unread[0].value.items():
        counts[step, name, kind] = counts.get((step, name, kind), 0) + n
    for (_, name, kind), n in counts.items():
        warn(f"{n} cell{'s' if n != 1 else ''} of “{name}” cannot be read as {kind}; they are empty.")
