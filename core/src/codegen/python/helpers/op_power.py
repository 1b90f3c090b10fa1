import numpy as np

from .arithmetic import arithmetic

op_power = lambda a, b: arithmetic(lambda x, y: np.float64(x) ** y, a, b, always_decimal=True)
