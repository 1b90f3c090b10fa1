import pandas as pd


def as_objects(frame: pd.DataFrame, names: list) -> pd.DataFrame:
    """The frame with columns of texts, days or lists in which a cell without a value is None."""
    columns = frame[names].astype(object)
    return frame.assign(**columns.where(columns.notna(), None))
