from .stop import stop


def refuse_type(table, name, kind, sentence):
    """The next step cannot run where a column is of this type, which a new column in a file made it."""
    if table.kind(name) == kind:
        stop(4, sentence)


def refuse_new(table, known, sentences):
    """The next step cannot run with a column that the recipe does not know, of some types: of each the sentence before and after its name."""
    for name in table.columns:
        kind = table.kind(name)
        if name not in known and kind in sentences:
            before, after = sentences[kind]
            stop(4, before + name + after)
