import datetime
import math
import re

from .max_whole import MAX_WHOLE
from .read_date import read_moment
from .xlsx_sheets import Unreadable


def ods_sheets(path):
    """Each sheet's name, whether it is hidden, and its rows."""
    import zipfile
    from xml.etree import ElementTree

    local = lambda name: name.rpartition("}")[2]

    def text_of(node):
        text = node.text or ""
        for inner in node:
            kind = local(inner.tag)
            text += (
                " " * int({local(k): v for k, v in inner.attrib.items()}.get("c", 1))
                if kind == "s"
                else "\t"
                if kind == "tab"
                else "\n"
                if kind == "line-break"
                else ""
                if kind == "annotation"
                else text_of(inner)
            )
            text += inner.tail or ""
        return text

    def cell_of(node, a):
        kind = a.get("value-type")
        if kind in ("float", "percentage", "currency"):
            x = float(a["value"])
            return int(x) if x.is_integer() and abs(x) <= MAX_WHOLE else x
        if kind == "boolean":
            return a["boolean-value"] == "true"
        if kind == "date":
            return read_moment(a["date-value"], None, "date") or read_moment(
                re.sub(r"([.][0-9]{3})[0-9]+$", r"\1", a["date-value"]), None, "datetime"
            )
        if kind == "time":
            h, m, s = re.fullmatch(r"PT([0-9]+)H([0-9]+)M([0-9.]+)S", a["time-value"]).groups()
            ms = math.floor((int(h) * 3600 + int(m) * 60 + float(s)) * 1000 + 0.5)
            return (
                (datetime.datetime.min + datetime.timedelta(milliseconds=ms)).time() if ms < 86400000 else ms / 86400000
            )
        text = "\n".join(text_of(p) for p in node if local(p.tag) == "p")
        return Unreadable(text) if "formula" in a and re.fullmatch(r"#[A-Z/0!?]+|Err:[0-9]+", text) else text or None

    def rows_in(node):
        for inner in node:
            if local(inner.tag) == "table-row":
                yield inner
            elif local(inner.tag) in ("table-header-rows", "table-rows", "table-row-group"):
                yield from rows_in(inner)

    root = ElementTree.fromstring(zipfile.ZipFile(path).read("content.xml"))
    hidden = {
        s.get(next((k for k in s.attrib if local(k) == "name"), ""))
        for s in root.iter()
        if local(s.tag) == "style"
        and any(
            local(p.tag) == "table-properties" and {local(k): v for k, v in p.attrib.items()}.get("display") == "false"
            for p in s
        )
    }
    sheets = []
    for table in (t for s in root.iter() if local(s.tag) == "spreadsheet" for t in s if local(t.tag) == "table"):
        a = {local(k): v for k, v in table.attrib.items()}
        rows = []
        for row in rows_in(table):
            cells_ = []
            nothing = 0
            for c in row:
                if local(c.tag) not in ("table-cell", "covered-table-cell"):
                    continue
                b = {local(k): v for k, v in c.attrib.items()}
                value, times = (
                    None if local(c.tag) == "covered-table-cell" else cell_of(c, b),
                    int(b.get("number-columns-repeated", 1)),
                )
                if value is None:
                    nothing += times
                else:
                    cells_ += [None] * nothing + [value] * times
                    nothing = 0
            times = int({local(k): v for k, v in row.attrib.items()}.get("number-rows-repeated", 1))
            if cells_ or times <= 100000:
                rows += [cells_] * times
        sheets.append((a.get("name", ""), a.get("style-name") in hidden, rows))
    return sheets
