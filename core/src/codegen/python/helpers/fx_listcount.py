import json

from .by_row import by_row

fx_listcount = by_row(lambda l: len(json.loads(l)))
