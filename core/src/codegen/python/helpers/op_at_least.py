from .by_row import by_row
from .lower_of import sort_value

op_at_least = by_row(lambda a, b: sort_value(a) >= sort_value(b))
