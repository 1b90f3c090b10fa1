import sys


def account(step, frame):
    """Says on standard error what a step left."""
    if "--quiet" not in sys.argv[1:]:
        print(f"{len(frame):12,} rows × {len(frame.columns)} columns  {step}", file=sys.stderr)
