import pandas as pd

from .shown import shown


def same_type(frame: pd.DataFrame) -> pd.DataFrame:
    """Whole numbers beside decimals as decimals; numbers beside cells that are none, all as text."""
    kinds = {type(next(iter(x.dropna()), "")) if x.dtype == object else str(x.dtype) for _, x in frame.items()}
    if len(kinds) < 2:
        return frame
    if kinds == {"Int64", "float64"}:
        return frame.astype("float64")
    return frame.apply(lambda x: x.astype(object).map(shown, na_action="ignore"))


def to_rows(frame: pd.DataFrame, names: list, label: str, value: str) -> pd.DataFrame:
    """Each row gives one row for each of the columns `names`: its name as `label`, its cell as `value`."""
    frame = frame.assign(**same_type(frame[names]))
    rows = frame.melt([c for c in frame.columns if c not in names], names, label, value, ignore_index=False)
    rows = rows.astype({label: object, value: frame[names[0]].dtype} if names else {})
    return rows.sort_index(kind="stable").reset_index(drop=True)
