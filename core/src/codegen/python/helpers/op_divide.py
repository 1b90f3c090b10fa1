from .arithmetic import arithmetic

op_divide = lambda a, b: arithmetic(lambda x, y: x / y, a, b, always_decimal=True)
