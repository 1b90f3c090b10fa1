import math

import pandas as pd

from .max_whole import MAX_WHOLE


def exact_sum(numbers: pd.Series):
    """The exact sum of a group's decimals, empty where it has none."""
    known = numbers.dropna()
    return math.fsum(known) if len(known) else math.nan


def integer_sum(numbers: pd.Series):
    """The sum of a group's whole numbers, empty where it has none or the sum is out of range."""
    known = numbers.dropna()
    total = sum(known.tolist())
    return total if len(known) and abs(total) <= MAX_WHOLE else pd.NA


def exact_mean(numbers: pd.Series):
    """The mean of a group's numbers by their exact sum, empty where it has none."""
    known = numbers.dropna()
    return math.fsum(known) / len(known) if len(known) else math.nan
