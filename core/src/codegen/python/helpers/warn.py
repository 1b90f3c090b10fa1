import sys

from .stop import stop


def warn(sentence):
    """Says on standard error what a reader should look at; with --strict the script stops there."""
    if "--strict" in sys.argv[1:]:
        stop(4, sentence)
    print(sentence, file=sys.stderr)
