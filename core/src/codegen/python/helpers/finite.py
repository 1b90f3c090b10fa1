import numpy as np
import pandas as pd


def finite(x: pd.Series) -> pd.Series:
    """Decimals; what is infinite or no number is empty."""
    return x.astype("float64").replace([np.inf, -np.inf], np.nan) + 0.0
