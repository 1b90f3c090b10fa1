import collections


def encoding_of(path: str, given: str) -> str:
    """The encoding that a file's first bytes tell, else the given one."""
    with open(path, "rb") as file:
        start = file.read(3)
    if start[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return "utf-16"
    return "utf-8-sig" if start == b"\xef\xbb\xbf" else given


def found_encoding(path: str) -> str:
    """UTF-8 where all of a file is that, else the encoding of Western Windows; its first bytes go first."""
    try:
        with open(path, encoding="utf-8") as file:
            collections.deque(file, maxlen=0)
    except UnicodeDecodeError:
        return encoding_of(path, "windows-1252")
    return encoding_of(path, "utf-8")
