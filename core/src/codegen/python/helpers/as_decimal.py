from .by_row import by_row

as_decimal = by_row(lambda a: float(a))
