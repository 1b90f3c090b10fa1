import json

from .cells import cells
from .column import column
from .follow import follow  # trace
from .list_items import item_text
from .max_whole import MAX_WHOLE


def lists_of(x):
    """The items of each list of a column; none where it is empty."""
    return [[] if v is None else json.loads(v) for v in cells(x)]


def item_kinds(lists):
    """The types of all items."""
    return {
        "boolean"
        if isinstance(v, bool)
        else ("integer" if float(v).is_integer() and abs(v) <= MAX_WHOLE else "decimal")
        if isinstance(v, (int, float))
        else "text"
        for l in lists
        for v in l
        if v is not None
    }


def kind_of_items(kinds):
    """The type of a column of items of these types."""
    return next(iter(kinds)) if len(kinds) == 1 else "decimal" if kinds and kinds <= {"integer", "decimal"} else "text"


def unroll(frame, name, kind=None):
    """A list gives a row an item; an empty list gives one row with empty."""
    lists = lists_of(frame[name])
    kind = kind or kind_of_items(item_kinds(lists))
    rows = frame.index.repeat([max(1, len(l)) for l in lists])
    follow(rows)  # trace
    result = frame.loc[rows].reset_index(drop=True)
    items = [v for l in lists for v in (l or [None])]
    at = list(frame.columns).index(name)
    result = result.drop(columns=[name])
    result.insert(at, name, column([None if v is None else item_text(v) if kind == "text" else v for v in items], kind))
    return result
