from .stop import stop
from .type_of import type_of


def refuse_type(frame, name, kind, sentence):
    """The next step cannot run where a column is of this type, which a new column in a file made it."""
    if frame[name].notna().any() and type_of(frame[name]) == kind:
        stop(4, sentence)


def refuse_new(frame, known, sentences):
    """The next step cannot run with a column that the recipe does not know, of some types: of each the sentence before and after its name."""
    for name in frame.columns:
        kind = type_of(frame[name])
        if name not in known and frame[name].notna().any() and kind in sentences:
            before, after = sentences[kind]
            stop(4, before + name + after)
