import datetime

import pandas as pd

from .kind_together import kind_together
from .shown import shown
from .type_of import type_of


def at_midnight(day: datetime.date) -> datetime.datetime:
    """A date as the date-time at which it begins; a date-time as it is."""
    return day if isinstance(day, datetime.datetime) else datetime.datetime.combine(day, datetime.time())


def same_type(frame: pd.DataFrame) -> pd.DataFrame:
    """Whole numbers beside decimals as decimals, dates beside date-times as those, other mixtures as text."""
    kinds = {type_of(frame[name]) for name in frame.columns}
    if len(kinds) < 2:
        return frame
    if kind_together(kinds) == "decimal":
        return frame.astype("float64")
    way = at_midnight if kind_together(kinds) == "datetime" else shown
    return frame.apply(lambda x: x.astype(object).map(way, na_action="ignore"))


def to_rows(frame: pd.DataFrame, names: list, label: str, value: str) -> pd.DataFrame:
    """Each row gives one row for each of the columns `names`: its name as `label`, its cell as `value`."""
    frame = frame.assign(**same_type(frame[names]))
    rows = frame.melt([c for c in frame.columns if c not in names], names, label, value, ignore_index=False)
    rows = rows.astype({label: object, value: frame[names[0]].dtype} if names else {})
    return rows.sort_index(kind="stable").reset_index(drop=True)
