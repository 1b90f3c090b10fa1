import math

import pandas as pd


def exact_sum(numbers: pd.Series):
    """The exact sum of a group's decimals, empty where it has none."""
    known = numbers.dropna()
    return math.fsum(known) if len(known) else math.nan


def exact_mean(numbers: pd.Series):
    """The mean of a group's numbers by their exact sum, empty where it has none."""
    known = numbers.dropna()
    return math.fsum(known) / len(known) if len(known) else math.nan
