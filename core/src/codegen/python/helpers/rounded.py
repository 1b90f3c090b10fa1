from decimal import Decimal


def rounded(x, n, way):
    if n >= 0 and float(x).is_integer():
        return float(x)
    exact = Decimal(f"{x:.15g}")
    return (
        float(exact if -exact.as_tuple().exponent <= n else exact.quantize(Decimal(1).scaleb(-n), rounding=way)) + 0.0
    )
