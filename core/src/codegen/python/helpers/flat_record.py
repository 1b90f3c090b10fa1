import json

from .column import ListText
from .max_whole import MAX_WHOLE


def exact(value):
    """A whole number that a double cannot hold is the text of its digits."""
    return str(value) if isinstance(value, int) and not isinstance(value, bool) and abs(value) > MAX_WHOLE else value


def list_text(items):
    """A list of single values; one with records or lists in it is text."""
    text = json.dumps(
        [int(i) if isinstance(i, float) and i.is_integer() else exact(i) for i in items],
        ensure_ascii=False,
        separators=(",", ":"),
    )
    return text if any(isinstance(i, (list, dict)) for i in items) else ListText(text)


def flat(record, prefix=""):
    """A record of JSON as one row: what is nested becomes a.b, lists stay JSON."""
    row = {}
    for key, value in record.items():
        if isinstance(value, dict):
            row.update(flat(value, prefix + key + "."))
        else:
            row[prefix + key] = list_text(value) if isinstance(value, list) else None if value == "" else exact(value)
    return row
