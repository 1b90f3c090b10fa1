import json

from .by_row import by_row
from .list_items import item_json, list_of


def listdistinct(l):
    seen = {}
    for v in json.loads(l):
        seen.setdefault(item_json(v), v)
    return list_of(seen.values())


fx_listdistinct = by_row(listdistinct)
