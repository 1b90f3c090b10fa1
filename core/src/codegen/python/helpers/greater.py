from .conditions import filled, test
from .lower_of import sort_value


def greater(x, value, **how):
    return test(filled(lambda a, b: sort_value(a) > sort_value(b)), x, value, **how)
