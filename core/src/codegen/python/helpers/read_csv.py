import csv

import pandas as pd

from .encoding_of import encoding_of
from .table_names import names_for


def csv_rows(path: str, encoding: str, delimiter: str) -> pd.DataFrame:
    """All rows of a CSV file as text, as wide as the widest."""
    options = {"header": None, "dtype": object, "keep_default_na": False, "na_values": [""]}
    try:
        return pd.read_csv(path, sep=delimiter, encoding=encoding, skip_blank_lines=False, **options)
    except (pd.errors.EmptyDataError, pd.errors.ParserError):  # a row is wider than the first
        csv.field_size_limit(2**31 - 1)
        with open(path, encoding=encoding, newline="") as file:
            rows = [[cell or None for cell in row] for row in csv.reader(file, delimiter=delimiter)]
        return pd.DataFrame([row if any(row) else [] for row in rows], dtype=object)


def read_csv(paths: list, encoding: str, delimiter: str = ",", header: int = 1) -> pd.DataFrame:
    """CSV files as text, one below the other; row `header` has the names, blank rows are left out."""
    tables = []
    for path in paths:
        rows = csv_rows(path, encoding_of(path, encoding), delimiter)[header - 1 :]
        tables.append(rows[1:].set_axis(names_for(rows[:1].to_numpy().ravel().tolist()), axis=1))
    table = pd.concat(tables, ignore_index=True)
    filled = table.notna()
    return table.where(filled, None)[filled.any(axis=1)].reset_index(drop=True)
