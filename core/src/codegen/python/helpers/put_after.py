import pandas as pd


def put_after(frame: pd.DataFrame, name: str, values: pd.Series, after: str) -> pd.DataFrame:
    """A column in place of the one of that name, else right after another."""
    if name not in frame.columns:
        frame.insert(frame.columns.get_loc(after) + 1, name, values)
    return frame.assign(**{name: values})
