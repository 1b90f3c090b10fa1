import difflib

from .stop import stop
from .warn import warn


def require(frame, label, wanted, beside=()):
    """What the script was written for must be there; columns that it does not know are named."""
    for c in wanted:
        if c not in frame.columns:
            near = " or ".join(f"“{one}”" for one in difflib.get_close_matches(c, list(frame.columns)))
            stop(4, f"The file for {label} has no column “{c}”.{near and f' Did you mean {near}?'} Give a file that has it, or rename the column in it.")
    for c in frame.columns:
        if c not in wanted and c not in beside:
            warn(f"The file for {label} has a column “{c}” that this script was not made with.")
