from .lower_of import lower_of
from .spaces import SPACES


def read_boolean(t):
    word = lower_of(t.strip(SPACES))
    return True if word in ["true", "yes", "y", "t", "1"] else False if word in ["false", "no", "n", "f", "0"] else None
