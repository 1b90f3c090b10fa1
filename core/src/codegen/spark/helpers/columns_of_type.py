from .spark_table import Table
from .type_of import type_of


def columns_of_type(frame, kind):
    """The columns of a type, of a table or of a frame of some of its rows."""
    kinds = frame.kinds if isinstance(frame, Table) else [type_of(frame[c]) for c in frame.columns]
    return [
        c for c, own in zip(frame.columns, kinds) if own in (("integer", "decimal") if kind == "number" else (kind,))
    ]
