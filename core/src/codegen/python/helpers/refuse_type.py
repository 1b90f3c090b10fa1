from .columns_of_type import columns_of_type
from .stop import stop


def refuse_type(frame, name, kind, sentence):
    """The next step cannot run where a column is of this type, which a new column in a file made it."""
    if name in columns_of_type(frame, kind):
        stop(4, sentence)


def refuse_new(frame, known, sentences):
    """The next step cannot run with a column that the recipe does not know, of some types: of each the sentence before and after its name."""
    for kind, (before, after) in sentences.items():
        for name in columns_of_type(frame, kind):
            if name not in known:
                stop(4, before + name + after)
