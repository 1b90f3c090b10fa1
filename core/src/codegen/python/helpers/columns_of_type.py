from .type_of import type_of


def columns_of_type(frame, kind):
    return [c for c in frame.columns if type_of(frame[c]) in (("integer", "decimal") if kind == "number" else (kind,))]
