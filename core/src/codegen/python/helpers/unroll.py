import json

from .cells import cells
from .column import column
from .follow import follow  # trace
from .list_items import item_text
from .max_whole import MAX_WHOLE


def unroll(frame, name):
    """A list gives a row an item; an empty list gives one row with empty."""
    lists = [[] if v is None else json.loads(v) for v in cells(frame[name])]
    kinds = {"boolean" if isinstance(v, bool) else ("integer" if float(v).is_integer() and abs(v) <= MAX_WHOLE else "decimal") if isinstance(v, (int, float)) else "text" for l in lists for v in l if v is not None}
    kind = kinds.pop() if len(kinds) == 1 else "decimal" if kinds and kinds <= {"integer", "decimal"} else "text"
    rows = frame.index.repeat([max(1, len(l)) for l in lists])
    follow(rows)  # trace
    result = frame.loc[rows].reset_index(drop=True)
    items = [v for l in lists for v in (l or [None])]
    at = list(frame.columns).index(name)
    result = result.drop(columns=[name])
    result.insert(at, name, column([None if v is None else item_text(v) if kind == "text" else v for v in items], kind))
    return result
