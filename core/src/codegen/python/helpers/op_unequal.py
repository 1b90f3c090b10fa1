from .by_row import by_row_own

op_unequal = by_row_own(lambda a, b: a != b)
