import re


def lower_of(t):
    return t.replace("İ", "i").replace("Σ", "σ").lower()
def text_key(t):
    """Text goes by its small letters, ties by the letters themselves."""
    return (lower_of(t), t)
def natural_key(t):
    return (re.sub(r"[0-9]+", lambda m: "0%04d%s" % (len(m.group().lstrip("0") or "0"), m.group().lstrip("0") or "0"), lower_of(t)), lower_of(t), t)
def sort_value(x):
    return text_key(x) if isinstance(x, str) else x
