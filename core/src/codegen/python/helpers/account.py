import sys

import pandas as pd


def account(step: str, frame: pd.DataFrame) -> None:
    """Says on standard error what a step left."""
    if "--quiet" not in sys.argv[1:]:
        print(f"{len(frame):12,} rows × {len(frame.columns)} columns  {step}", file=sys.stderr)
