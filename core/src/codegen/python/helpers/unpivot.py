from .cast import cast
from .cells import cells
from .column import column
from .column_order import place
from .follow import follow  # trace
from .free_name import free_name
from .kind_together import kind_together
from .matches_in import put_matches
from .shown import shown
from .type_of import type_of


def unpivot(
    frame, groups, name, drop_empty=False, remove=None, remove_pattern=None, renames=None, before=None, after=None
):
    """Each row gives one row per label, in column order; the other columns repeat."""
    if renames is None:
        renames = {}

    def label_of(c):
        c = put_matches(remove_pattern, "", c) if remove_pattern is not None else c.replace(remove, "") if remove else c
        return renames.get(c, c)

    groups = [(list(dict.fromkeys(names)), value) for names, value in groups]
    gathered = {c for names, _ in groups for c in names}
    kept = [c for c in frame.columns if c not in gathered]
    turns = []
    if len(groups) == 1:
        turns = [(label_of(c), [c]) for c in groups[0][0]]
    else:
        by_label = {}
        for c in (c for c in frame.columns if c in gathered):
            for g, (names, _) in enumerate(groups):
                if c in names:
                    by_label.setdefault(label_of(c), [None] * len(groups))[g] = c
        turns = list(by_label.items())
    label = free_name(name, kept)
    taken = kept + [label]
    rows = frame.index.repeat(len(turns))
    follow(rows)  # trace
    result = frame[kept].loc[rows].reset_index(drop=True)
    at = place(kept, before, after)
    result.insert(at, label, column([l or None for l, _ in turns] * len(frame), "text"))
    values = []
    for g, (names, value) in enumerate(groups):
        kind = kind_together(type_of(frame[c]) for c in names)

        def as_kind(c, kind=kind):
            if c is None:
                return [None] * len(frame)
            return (
                [v if v is None or kind != "text" else shown(v) for v in cells(frame[c])]
                if kind == "text"
                else cells(cast(frame[c], kind))
            )

        values.append(free_name(value, taken))
        taken.append(values[-1])
        result.insert(
            at + 1 + g,
            values[-1],
            column([v for row in zip(*[as_kind(columns_[g]) for _, columns_ in turns]) for v in row], kind),
        )
    if drop_empty:
        result = result[result[values].notna().any(axis=1)]
        follow(result.index)  # trace
        result = result.reset_index(drop=True)
    return result
