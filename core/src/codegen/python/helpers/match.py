import pandas as pd

from .as_objects import as_objects
from .warn import warn


def match(left: pd.DataFrame, right: pd.DataFrame, how: str, on: list) -> pd.DataFrame:
    """Merges in the order of the left rows, empty keys with nothing; says how many more rows repeated keys make."""
    rows = left.merge(right.dropna(subset=on), how="left", on=on, suffixes=("", " 2"), indicator="\0met")
    if len(rows) > len(left):
        warn(f"Matching by {', '.join(on)} makes {len(rows) - len(left)} more rows by repeated keys.")
    if how == "inner":
        rows = rows[rows["\0met"] == "both"].reset_index(drop=True)
    brought = [c for c in rows if rows[c].dtype == object and c not in left.columns]
    return as_objects(rows, brought)[[*left.columns, *rows.columns.drop([*left.columns, "\0met"])]]
