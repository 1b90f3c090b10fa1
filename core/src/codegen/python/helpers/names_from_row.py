from .cells import cells
from .follow import follow  # trace
from .shown import shown
from .table_names import names_for


def names_from_row(frame, row):
    """That row gives the names; it and the rows above leave."""
    top = (
        [None] * len(frame.columns)
        if row > len(frame)
        else [next(iter(cells(frame[c].iloc[row - 1 : row]))) for c in frame.columns]
    )
    follow(range(row, len(frame)))  # trace
    return (
        frame.iloc[row:]
        .reset_index(drop=True)
        .set_axis(names_for(["" if v is None else shown(v) for v in top], len(frame.columns)), axis=1)
    )
