import json

from .by_row import by_row
from .list_items import item_text


def listitem(l, n):
    items, n = json.loads(l), int(n)
    v = None if n == 0 or not -len(items) <= n <= len(items) else items[n - 1 if n > 0 else n]
    return None if v is None else item_text(v)


fx_listitem = by_row(listitem)
