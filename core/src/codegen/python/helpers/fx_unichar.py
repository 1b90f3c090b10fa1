from .by_row import by_row

fx_unichar = by_row(lambda n: chr(int(n)) if 1 <= int(n) <= 1114111 and not 55296 <= int(n) <= 57343 else None)
