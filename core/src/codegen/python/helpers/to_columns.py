import numpy as np
import pandas as pd

from .as_objects import as_objects
from .cells import cells
from .free_name import free_name
from .shown import shown
from .stop import stop
from .warn import warn


def to_columns(frame: pd.DataFrame, labels: str, by: list, figures: list, found=None, gaps=None) -> pd.DataFrame:
    """A column of each label and figure, as (name, column, what agg is called with, type); a row of each combination of `by`."""
    texts = [None if label is None else shown(label) for label in cells(frame[labels])]
    present = list(dict.fromkeys(texts))
    for label in [one for one in present if found is not None and one not in found]:
        warn(f"“{labels}” has “{label or 'Empty'}” in {texts.count(label)} rows, of which no column is made.")
    row = frame.groupby(by, sort=False, dropna=False).ngroup()
    result = frame.loc[~row.duplicated(), by].reset_index(drop=True)
    for label in present if found is None else found:
        here = np.array([text == label for text in texts], dtype=bool)
        for name, column, figure, dtype in figures:
            made = frame[here].groupby(row[here])[column].agg(figure).astype(dtype)
            made = made.reindex(result.index) if gaps is None else made.reindex(result.index, fill_value=gaps)
            wanted = (label or "Empty") + (f" {name}" if len(figures) > 1 else "")
            result[free_name(wanted, list(result))] = made
    return as_objects(result, [c for c in result if result[c].dtype == object])


def only_value(x: pd.Series):
    """The one value of a cell; a second stops the script."""
    known = x.dropna()
    if len(known) > 1:
        first, second = map(shown, known[:2])
        way = "Choose a measure such as their sum, or another column that tells the rows apart."
        stop(5, f"Two values of “{x.name}” meet in one cell: {first} and {second}. {way}")
    return next(iter(known), None)
