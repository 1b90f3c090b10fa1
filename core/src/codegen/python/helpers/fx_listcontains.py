import json

from .by_row import by_row
from .list_items import item_json

fx_listcontains = by_row(lambda l, x: item_json(x) in [item_json(v) for v in json.loads(l)])
