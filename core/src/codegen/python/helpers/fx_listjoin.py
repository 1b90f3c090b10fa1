import json

from .by_row import by_row
from .list_items import item_text

fx_listjoin = by_row(lambda l, s: s.join(item_text(v) for v in json.loads(l) if v is not None))
