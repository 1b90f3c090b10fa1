import datetime
import math
import re


def shown_by(code):
    """Whether a number format shows a date, a time, both or a number."""
    first = re.sub(r'"[^"]*"|\\.|_.|\*.', "", code).split(";")[0]
    if re.search(r"\[[hms]+\]", first, re.IGNORECASE):
        return "number"
    letters = re.sub(r"\[[^\]]*\]", "", first).lower()
    if letters == "general":
        return "number"
    clock = "h" in letters or "s" in letters
    day = "y" in letters or "d" in letters or ("m" in letters and not clock)
    return ("datetime" if clock else "date") if day else "time" if clock else "number"


def moment_of(serial, shown_, first):
    """A workbook's serial number as what it shows."""
    day, ms = math.floor(serial), math.floor((serial - math.floor(serial)) * 86400000 + 0.5)
    if 0 <= serial < 1 and ms < 86400000 and (first.year == 1899 or shown_ == "time"):
        return (datetime.datetime.min + datetime.timedelta(milliseconds=ms)).time()
    try:
        day = first + datetime.timedelta(days=day + (1 if first.year == 1899 and 0 < serial < 60 else 0))
    except OverflowError:
        return Unreadable(str(serial))
    if serial < 0:
        return Unreadable(str(serial))
    return day.date() if shown_ == "date" and ms == 0 else day + datetime.timedelta(milliseconds=ms)


class Unreadable:
    """A cell that shows an error instead of a value."""

    def __init__(self, text):
        self.text = text


def xlsx_sheets(path):
    """Each sheet's name, whether it is hidden, and its rows."""
    import warnings

    import openpyxl
    from openpyxl.utils.datetime import CALENDAR_MAC_1904, to_excel

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        book = openpyxl.load_workbook(path, data_only=True)
    mac = book.epoch == CALENDAR_MAC_1904
    first = book.epoch if mac else datetime.datetime(1899, 12, 30)

    def cell_of(c):
        if c.value is None or c.data_type == "e":
            return None if c.value is None else Unreadable(c.value)
        v = c.value
        if isinstance(v, (datetime.datetime, datetime.date, datetime.time, datetime.timedelta)):
            serial = v.total_seconds() / 86400 if isinstance(v, datetime.timedelta) else to_excel(v, book.epoch)
            shown_ = shown_by(c.number_format)
            return serial if shown_ == "number" else moment_of(serial, shown_, first)
        if isinstance(v, str) and "_x" in v:
            v = re.sub(r"_x([0-9A-Fa-f]{4})_", lambda m: chr(int(m.group(1), 16)), v)
        return v

    return [
        (s.title, s.sheet_state != "visible", [[cell_of(c) for c in r] for r in s.iter_rows(min_row=1, min_col=1)])
        for s in book.worksheets
    ]
