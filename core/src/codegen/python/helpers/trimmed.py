import pandas as pd

from .spaces import SPACES


def filled_text(x: pd.Series) -> pd.Series:
    """A column of text of which a cell without a letter is empty."""
    return x.where(x.notna() & (x != ""), None)


def trimmed(x: pd.Series) -> pd.Series:
    """Without spaces at the ends, and with one between words."""
    return filled_text(x.str.strip(SPACES).str.replace(f"[{SPACES}]+", " ", regex=True))
