import functools
import re


def corner(ref):
    letters, digits = re.fullmatch("([A-Za-z]+)([0-9]*)", ref).groups()
    return functools.reduce(lambda n, c: n * 26 + ord(c) - 64, letters.upper(), 0), int(digits or 0) or None
