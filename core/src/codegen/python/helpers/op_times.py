from .arithmetic import arithmetic

op_times = lambda a, b: arithmetic(lambda x, y: x * y, a, b)
