import math

import pandas as pd


def running_sum(numbers: pd.Series) -> pd.Series:
    """The sum of a group's decimals up to each row, empty until the first."""
    total, sums = math.nan, []
    for number in numbers:
        if not math.isnan(number):
            total = number if math.isnan(total) else math.fsum([total, number])
        sums.append(total)
    return pd.Series(sums, index=numbers.index)
