import pandas as pd


def cells(x: pd.Series) -> list:
    """The cells of a column as plain Python values, None for empty."""
    return x.astype(object).where(x.notna(), None).tolist()
