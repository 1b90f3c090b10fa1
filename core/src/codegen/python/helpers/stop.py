import sys


def stop(exit_code: int, sentence: str) -> None:
    """Ends the script with a sentence on standard error."""
    print(sentence, file=sys.stderr)
    sys.exit(exit_code)
