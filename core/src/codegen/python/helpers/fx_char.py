from .by_row import by_row

fx_char = by_row(lambda n: chr(int(n)) if 1 <= int(n) <= 255 and not 55296 <= int(n) <= 57343 else None)
