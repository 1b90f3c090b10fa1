from .by_row import rows_of


def failing(x, inner, args, own):
    """The rows in which a part could not be computed, as against being merely empty."""

    def one(x, *rest):
        given = rest[len(inner) :]
        return x is None and (
            any(rest[: len(inner)])
            or (own is not None and all(v is not None for v in given) and (own is True or bool(own(*given))))
        )

    return rows_of(one, [x, *inner, *args])


def failing_branch(x, condition, first, yes, no):
    return rows_of(
        lambda x, c, f, y, n: x is None and bool(f or (y if c is True else n)), [x, condition, first, yes, no]
    )


def both_fail(a, b):
    return rows_of(lambda a, b: bool(a and b), [a, b])
