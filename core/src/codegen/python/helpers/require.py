from .stop import stop


def require(frame, label, wanted):
    """What the script was written for must be there."""
    missing = [c for c in wanted if c not in frame.columns]
    if missing:
        stop(4, "The file for %s has no column %s. Give a file that has it, or rename the column in it." % (label, ", ".join("“%s”" % c for c in missing)))
