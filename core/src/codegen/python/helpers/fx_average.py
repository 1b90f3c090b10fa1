from .by_row import by_row_own


fx_average = by_row_own(lambda *a: (lambda k: sum(k) / len(k) if k else None)([x for x in a if x is not None]))
