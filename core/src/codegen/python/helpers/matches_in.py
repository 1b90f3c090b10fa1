import re


def matches_in(pattern, t):
    """Every match, from the left; after one of no length the next begins a character further."""
    at, compiled = 0, re.compile(pattern)
    while at <= len(t):
        found = compiled.search(t, at)
        if not found:
            return
        yield found
        at = found.end() + (found.end() == found.start())


def put_matches(pattern, put, t):
    """Another text for each match."""
    made, end = "", 0
    for found in matches_in(pattern, t):
        made += t[end : found.start()] + found.expand(put)
        end = found.end()
    return made + t[end:]
