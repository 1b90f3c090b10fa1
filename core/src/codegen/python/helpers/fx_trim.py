import re

from .by_row import by_row
from .spaces import SPACES

fx_trim = by_row(lambda t: re.sub("[" + SPACES + "]+", " ", t.strip(SPACES)))
