from decimal import Decimal


def rounded(x, n, way):
    if n >= 0 and float(x).is_integer():
        return float(x)
    exact = Decimal(f"{x:.15g}")
    if -exact.as_tuple().exponent <= n:
        return float(exact) + 0.0
    # beyond what a float holds, how many places makes no difference
    return float(exact.quantize(Decimal(1).scaleb(min(-n, 400)), rounding=way)) + 0.0
