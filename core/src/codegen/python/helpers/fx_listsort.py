import json

from .by_row import by_row
from .list_items import item_rank, list_of

fx_listsort = by_row(lambda l: list_of(sorted(json.loads(l), key=item_rank)))
