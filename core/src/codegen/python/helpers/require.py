import difflib

import pandas as pd

from .stop import stop
from .warn import warn


def require(frame: pd.DataFrame, label: str, wanted: list, beside: tuple = ()) -> list:
    """Stops where a column is missing; says which are new, and gives their names."""
    for name in wanted:
        if name not in frame.columns:
            near = " or ".join(f"“{one}”" for one in difflib.get_close_matches(name, list(frame.columns)))
            meant = near and f" Did you mean {near}?"
            way = "Give a file that has it, or rename the column in it."
            stop(4, f"The file for {label} has no column “{name}”.{meant} {way}")
    fresh = [name for name in frame.columns if name not in wanted and name not in beside]
    for name in fresh:
        warn(f"The file for {label} has a column “{name}” that this script was not made with.")
    return fresh
