import json

from .by_row import by_row_own
from .column import ListText
from .lower_of import text_key
from .shown import shown


def item_text(v):
    return shown(v)


def item_json(v):
    if v is None or isinstance(v, bool):
        return json.dumps(v)
    return item_text(v) if isinstance(v, (int, float)) else json.dumps(shown(v), ensure_ascii=False)


def list_of(items):
    return ListText("[" + ",".join(item_json(v) for v in items) + "]")


def item_rank(v):
    return (
        (3, 0)
        if v is None
        else (1, v)
        if isinstance(v, bool)
        else (0, v)
        if isinstance(v, (int, float))
        else (2, text_key(v))
    )


fx_list = by_row_own(lambda *a: list_of(a))
