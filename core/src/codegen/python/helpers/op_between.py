from .between import between
from .by_row import by_row

op_between = by_row(lambda a, b: between(a, b))
