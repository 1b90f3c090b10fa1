import sys

from .spark_table import counting
from .warn import rows_left

# Of each step its id and how many columns it left.
accounts = []


def account(step, table):
    """The table, of which is counted what the step left when its rows pass; `tell_accounts` says it."""
    if "--quiet" in sys.argv[1:]:
        return table
    accounts.append((step, len(table.columns)))
    return counting(table, step)


def tell_accounts():
    """Says on standard error what each step left, where its rows were asked for."""
    for step, columns in accounts:
        counts = [n for (one, _), n in rows_left[0].value.items() if one == step]
        if counts:
            print(f"{sum(counts):12,} rows × {columns} columns  {step}", file=sys.stderr)
