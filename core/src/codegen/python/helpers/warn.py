import sys

from .stop import stop


def warn(sentence: str) -> None:
    """Says on standard error what a reader should look at; with --strict the script stops there."""
    if "--strict" in sys.argv[1:]:
        stop(4, sentence)
    print(sentence, file=sys.stderr)


def warn_unread(count: int, name: str, kind: str) -> None:
    """Says how many cells of a column did not read as its type, if any."""
    if count > 0:
        cells = "1 cell" if count == 1 else f"{count} cells"
        warn(f"{cells} of “{name}” cannot be read as {kind}; they are empty.")
