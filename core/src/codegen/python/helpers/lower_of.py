import re


def lower_of(t):
    return t.replace("İ", "i").replace("Σ", "σ").lower()


def text_key(t):
    """Text goes by its small letters, ties by the letters themselves."""
    return (lower_of(t), t)


def natural_key(t):
    def by_size(m):
        digits = m.group().lstrip("0") or "0"
        return f"0{len(digits):04}{digits}"

    return (re.sub(r"[0-9]+", by_size, lower_of(t)), lower_of(t), t)


def sort_value(x):
    return text_key(x) if isinstance(x, str) else x
