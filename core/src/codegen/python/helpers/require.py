from .stop import stop
from .warn import warn


def require(frame, label, wanted, beside=()):
    """What the script was written for must be there; columns that it does not know are named."""
    missing = [c for c in wanted if c not in frame.columns]
    if missing:
        stop(4, "The file for %s has no column %s. Give a file that has it, or rename the column in it." % (label, ", ".join("“%s”" % c for c in missing)))
    for c in frame.columns:
        if c not in wanted and c not in beside:
            warn("The file for %s has a column “%s” that this script was not made with." % (label, c))
