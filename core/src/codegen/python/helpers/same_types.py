import datetime

from .shown import shown


def same_types(columns: list) -> list:
    """Columns of one type: whole numbers beside decimals are decimals, days beside moments are moments, else all are text."""
    dtypes = {str(x.dtype) for x in columns}
    kinds = {type(v) for x in columns if x.dtype == object for v in x.dropna().head(1)}
    if len(dtypes) < 2 and len(kinds) < 2:
        return columns
    if dtypes == {"Int64", "float64"}:
        return [x.astype("float64") for x in columns]
    if dtypes == {"object"} and kinds == {datetime.date, datetime.datetime}:
        return [
            x.map(
                lambda v: datetime.datetime(v.year, v.month, v.day) if type(v) is datetime.date else v,
                na_action="ignore",
            )
            for x in columns
        ]
    return [x.astype(object).map(shown, na_action="ignore") for x in columns]
