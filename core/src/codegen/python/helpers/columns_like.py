import re


def columns_like(frame, pattern):
    """* is any run, ? one character, case ignored."""
    source = "".join(".*" if c == "*" else "." if c == "?" else re.escape(c) for c in pattern)
    return [c for c in frame.columns if re.fullmatch(source, c, re.IGNORECASE | re.DOTALL)]
