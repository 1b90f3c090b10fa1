from .by_row import by_row_own

fx_if = by_row_own(lambda c, yes, no=None: yes if c is True else no)
