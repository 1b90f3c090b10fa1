import datetime
import math
import re

import pandas as pd

from .read_cells import read_cells
from .spaces import SPACES


def read_finite(text: str) -> float:
    """A decimal; ValueError where it is out of range."""
    if math.isinf(float(text)):
        raise ValueError(text)
    return float(text)


TIME = r"([01][0-9]|2[0-3]):[0-5][0-9](:[0-5][0-9](\.[0-9]{1,3})?)?"
PLAIN_FORMS = {
    "integer": ("-?(0|[1-9][0-9]{0,14})", int),
    "decimal": (r"-?(0|[1-9][0-9]{0,14}|(0|[1-9][0-9]*)?\.[0-9]+([eE][-+]?[0-9]+)?)", read_finite),
    "boolean": ("(?ai:true|false)", lambda text: text.lower() == "true"),
    "date": ("[0-9]{4}-[0-9]{2}-[0-9]{2}", datetime.date.fromisoformat),
    "time": (TIME, datetime.time.fromisoformat),
    "datetime": ("[0-9]{4}-[0-9]{2}-[0-9]{2}[T ]" + TIME, datetime.datetime.fromisoformat),
}


def detected(x: pd.Series) -> pd.Series:
    """A column of text as the narrowest type that all its cells are plainly written as, if any."""
    texts = [text.strip(SPACES) for text in x.dropna().unique()]
    for kind, (form, read) in PLAIN_FORMS.items():
        if texts and all(re.fullmatch(form, text) for text in texts):
            try:
                return read_cells(x, lambda text, read=read: read(text.strip(SPACES)), kind)
            except ValueError:
                continue
    return x
