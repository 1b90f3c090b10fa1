from .arithmetic import arithmetic

op_minus = lambda a, b: arithmetic(lambda x, y: x - y, a, b)
