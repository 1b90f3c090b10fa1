import pandas as pd

from .same_types import same_types


def to_rows(frame: pd.DataFrame, names: list, label: str, value: str) -> pd.DataFrame:
    """Each row gives one row for each of the columns `names`: its name as `label`, its cell as `value`."""
    frame = frame.assign(**dict(zip(names, same_types([frame[c] for c in names]))))
    rows = frame.melt([c for c in frame.columns if c not in names], names, label, value, ignore_index=False)
    rows = rows.astype({label: object, value: frame[names[0]].dtype} if names else {})
    return rows.sort_index(kind="stable").reset_index(drop=True)
