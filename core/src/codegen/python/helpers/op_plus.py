from .arithmetic import arithmetic

op_plus = lambda a, b: arithmetic(lambda x, y: x + y, a, b)
