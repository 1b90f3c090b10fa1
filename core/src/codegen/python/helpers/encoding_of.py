import collections


def encoding_of(path, encoding):
    """The encoding that the first bytes tell, that is given, or UTF-8 where all is that, else that of Western Windows."""
    with open(path, "rb") as f:
        start = f.read(4)
    for mark, name in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if start.startswith(mark):
            return name
    if encoding:
        return encoding
    try:
        with open(path, encoding="utf-8") as f:
            collections.deque(f, maxlen=0)
    except UnicodeDecodeError:
        return "windows-1252"
    return "utf-8"
