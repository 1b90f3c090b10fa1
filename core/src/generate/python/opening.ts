import { decimalSource, integerSource } from '../../table/detect.ts'
import type { Block } from '../blocks.ts'
import { py } from '../tag.ts'

/** Files to frames: text files, workbooks, JSON. */
export const opening: readonly Block[] = [
  {
    source: `def decode(data, encoding):
    for bom, name in ((b"\\xef\\xbb\\xbf", "utf-8"), (b"\\xff\\xfe", "utf-16-le"), (b"\\xfe\\xff", "utf-16-be")):
        if data.startswith(bom):
            return data[len(bom):].decode(name)
    if encoding:
        return data.decode(encoding)
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        return data.decode("windows-1252")
def sniff_delimiter(text, quote):
    """The sign that parts most lines into equally many cells."""
    lines = [re.sub(re.escape(quote) + "[^" + re.escape(quote) + "]*" + re.escape(quote), "", l) for l in text.split("\\n", 60)[:60] if l.strip("\\r") != ""]
    best = (0, 0, ",")
    for d in ",;\\t|":
        counts = collections.Counter(l.count(d) for l in lines if d in l)
        if counts:
            mode = max(counts.values())
            best = max(best, (mode, max(c for c in counts if counts[c] == mode), d), key=lambda b: b[:2])
    return best[2]
def detect(values, decimal):
    kinds = set()
    for t in set(values):
        t = t.strip(SPACES)
        kinds.add("integer" if re.fullmatch(${py`${integerSource}`.text}, t) else "decimal" if re.fullmatch(${py`${decimalSource('\u0001')}`.text}.replace("\\u0001", re.escape(decimal)), t) and not math.isinf(float(t.replace(decimal, ".")))
            else "boolean" if lower_of(t) in ("true", "false") else next((k for k in ("date", "time") if read_moment(t, None, k) is not None), "datetime" if len(t) > 10 and read_moment(t, None, "datetime") is not None else "text"))
        if len(kinds) > 1 and kinds != {"integer", "decimal"}:
            return "text"
    return "decimal" if len(kinds) > 1 else kinds.pop() if kinds else "text"
def names_for(cells_, width):
    made = []
    for i in range(width):
        wanted = cells_[i] if i < len(cells_) and cells_[i] != "" else "Column %d" % (i + 1)
        free, n = wanted, 2
        while free in made:
            free, n = "%s %d" % (wanted, n), n + 1
        made.append(free)
    return made
def known_names(names, known):
    """A column that comes by another name gets its own, unless that is there too."""
    for i, name in enumerate(names):
        if name in known and known[name] not in names:
            names[i] = known[name]
    return names
def corner(ref):
    letters, digits = re.fullmatch("([A-Za-z]+)([0-9]*)", ref).groups()
    return functools.reduce(lambda n, c: n * 26 + ord(c) - 64, letters.upper(), 0), int(digits or 0) or None
def within_range(rows, area):
    """The rows and cells of a range such as B3:K90; rows are counted in it from then on."""
    if area is None:
        return rows
    (left, top), (right, bottom) = (corner(p) for p in area.split(":"))
    return [r[left - 1:right] for r in rows[top - 1:bottom]]
def joined_names(heads):
    """Several rows of names as one; an upper name goes on to the right."""
    if len(heads) == 1:
        return list(heads[0])
    width = max([len(h) for h in heads] + [0])
    filled = []
    for i, head in enumerate(heads):
        last, row = "", []
        for c in range(width):
            cell = head[c] if c < len(head) else ""
            last = cell or last
            row.append(cell if i == len(heads) - 1 else last)
        filled.append(row)
    return [" ".join(dict.fromkeys(row[c] for row in filled if row[c])) for c in range(width)]
def parted(rows, header, skip, footer, name_of=str):
    """The names, and the rows below them without what is left out."""
    tops = [] if header is None else sorted(header) if isinstance(header, list) else [header]
    top = max(tops + [0])
    names = joined_names([[name_of(v) for v in rows[t - 1]] for t in tops]) if tops and top <= len(rows) else []
    while names and names[-1] == "" and name_of is not str:
        names.pop()
    return names, rows[top + skip:len(rows) - footer]
def open_csv(files, encoding=None, delimiter=None, quote='"', header=1, skip=0, footer=0, area=None, types="detect", decimal=".", group=",", file_column=None, sheet_column=None, known={}):
    """Files with one table, stacked by column name; rows are counted as seen, blank rows leave."""
    csv.field_size_limit(2 ** 31 - 1)
    stacked, count = {}, 0
    for path in files:
        with open(path, "rb") as f:
            text = decode(f.read(), encoding)
        rows = list(csv.reader(io.StringIO(text, newline="\\n" if "\\n" in text else ""), delimiter=delimiter or sniff_delimiter(text, quote), quotechar=quote))
        head, body = parted(within_range(rows, area), header, skip, footer)
        body = [r for r in body if any(c != "" for c in r)]
        names = known_names(names_for(head, max([len(head)] + [len(r) for r in body])), known)
        for i, name in enumerate(names):
            stacked.setdefault(name, [""] * count).extend(r[i] if i < len(r) else "" for r in body)
        for column_, note in ((file_column, os.path.basename(path)), (sheet_column, "")):
            if column_:
                stacked.setdefault(column_, [""] * count).extend([note] * len(body))
        count += len(body)
        for values in stacked.values():
            values.extend([""] * (count - len(values)))
    frame = {}
    for column_ in (file_column, sheet_column):
        if column_ in stacked:
            stacked[column_] = stacked.pop(column_)
    for name, values in stacked.items():
        given = types.get(name) if isinstance(types, dict) else "text" if types == "text" or name in (file_column, sheet_column) else None
        kind, formats = (given if isinstance(given, tuple) else (given or detect([v for v in values if v != ""], decimal), None))
        known = {v: None if v == "" else read_text(v, kind, formats=formats, decimal=decimal, group=group) for v in set(values)}
        frame[name] = column([known[v] for v in values], kind)
    return pd.DataFrame(frame, index=range(count))`,
  },
  {
    source: `def shown_by(code):
    """Whether a number format shows a date, a time, both or a number."""
    first = re.sub(r'"[^"]*"|\\\\.|_.|\\*.', "", code).split(";")[0]
    if re.search(r"\\[[hms]+\\]", first, re.IGNORECASE):
        return "number"
    letters = re.sub(r"\\[[^\\]]*\\]", "", first).lower()
    if letters == "general":
        return "number"
    clock = "h" in letters or "s" in letters
    day = "y" in letters or "d" in letters or ("m" in letters and not clock)
    return ("datetime" if clock else "date") if day else "time" if clock else "number"
def moment_of(serial, shown_, first):
    """A workbook's serial number as what it shows."""
    day, ms = math.floor(serial), math.floor((serial - math.floor(serial)) * 86400000 + 0.5)
    if 0 <= serial < 1 and ms < 86400000:
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
    return [(s.title, s.sheet_state != "visible", [[cell_of(c) for c in r] for r in s.iter_rows(min_row=1, min_col=1)]) for s in book.worksheets]`,
  },
  {
    source: `def ods_sheets(path):
    """Each sheet's name, whether it is hidden, and its rows."""
    import xml.etree.ElementTree as ElementTree
    import zipfile
    local = lambda name: name.rpartition("}")[2]
    def text_of(node):
        text = node.text or ""
        for inner in node:
            kind = local(inner.tag)
            text += " " * int({local(k): v for k, v in inner.attrib.items()}.get("c", 1)) if kind == "s" else "\\t" if kind == "tab" else "\\n" if kind == "line-break" else "" if kind == "annotation" else text_of(inner)
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
            return read_moment(a["date-value"], None, "date") or read_moment(re.sub(r"([.][0-9]{3})[0-9]+$", r"\\1", a["date-value"]), None, "datetime")
        if kind == "time":
            h, m, s = re.fullmatch(r"PT([0-9]+)H([0-9]+)M([0-9.]+)S", a["time-value"]).groups()
            ms = math.floor((int(h) * 3600 + int(m) * 60 + float(s)) * 1000 + 0.5)
            return (datetime.datetime.min + datetime.timedelta(milliseconds=ms)).time() if ms < 86400000 else ms / 86400000
        text = "\\n".join(text_of(p) for p in node if local(p.tag) == "p")
        return Unreadable(text) if "formula" in a and re.fullmatch(r"#[A-Z/0!?]+|Err:[0-9]+", text) else text or None
    def rows_in(node):
        for inner in node:
            if local(inner.tag) == "table-row":
                yield inner
            elif local(inner.tag) in ("table-header-rows", "table-rows", "table-row-group"):
                yield from rows_in(inner)
    root = ElementTree.fromstring(zipfile.ZipFile(path).read("content.xml"))
    hidden = {s.get(next((k for k in s.attrib if local(k) == "name"), "")) for s in root.iter() if local(s.tag) == "style" and any(local(p.tag) == "table-properties" and {local(k): v for k, v in p.attrib.items()}.get("display") == "false" for p in s)}
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
                value, times = None if local(c.tag) == "covered-table-cell" else cell_of(c, b), int(b.get("number-columns-repeated", 1))
                if value is None:
                    nothing += times
                else:
                    cells_ += [None] * nothing + [value] * times
                    nothing = 0
            times = int({local(k): v for k, v in row.attrib.items()}.get("number-rows-repeated", 1))
            if cells_ or times <= 100000:
                rows += [cells_] * times
        sheets.append((a.get("name", ""), a.get("style-name") in hidden, rows))
    return sheets`,
  },
  {
    source: `def sheets_wanted(sheets, wanted):
    """The first that is not hidden, those named, or those whose name fits."""
    if wanted == "first":
        return [s for s in sheets if not s[1]][:1]
    if isinstance(wanted, list):
        return [s for name in wanted for s in sheets if s[0] == name]
    fits = lambda pattern, name: re.fullmatch("".join(".*" if c == "*" else "." if c == "?" else re.escape(c) for c in pattern), name, re.IGNORECASE | re.DOTALL) is not None
    return [s for s in sheets if fits(wanted["like"], s[0]) and not ("unlike" in wanted and fits(wanted["unlike"], s[0]))]
def cell_name(v):
    return "" if v is None else v.text if isinstance(v, Unreadable) else shown(int(v) if kind_of(v) == "integer" else v)
def kind_of(v):
    if isinstance(v, bool):
        return "boolean"
    if isinstance(v, (int, float)):
        return "integer" if float(v).is_integer() and abs(v) <= MAX_WHOLE else "decimal"
    return "datetime" if isinstance(v, datetime.datetime) else "date" if isinstance(v, datetime.date) else "time" if isinstance(v, datetime.time) else "list" if isinstance(v, ListText) else "text"
def kind_together(kinds):
    kinds = set(kinds)
    return "text" if not kinds else kinds.pop() if len(kinds) == 1 else "decimal" if kinds <= {"integer", "decimal"} else "datetime" if kinds <= {"date", "datetime"} else "text"
def stack_cells(parts, types, decimal, group, detects, file_column, sheet_column, known):
    """Tables of typed cells stacked by column name: cells keep their type, a column of mixed cells is text."""
    stacked, count = {}, 0
    for names, body, file, sheet in parts:
        body = [r for r in body if any(v is not None for v in r)]
        names = known_names(names_for(names, max([len(names)] + [len(r) - next((i for i, v in enumerate(reversed(r)) if v is not None), 0) for r in body])), known)
        for i, name in enumerate(names):
            stacked.setdefault(name, [None] * count).extend(r[i] if i < len(r) else None for r in body)
        for column_, note in ((file_column, file), (sheet_column, sheet)):
            if column_:
                stacked.setdefault(column_, [None] * count).extend([note] * len(body))
        count += len(body)
        for values in stacked.values():
            values.extend([None] * (count - len(values)))
    for column_ in (file_column, sheet_column):
        if column_ in stacked:
            stacked[column_] = stacked.pop(column_)
    frame = {}
    for name, values in stacked.items():
        kinds = {kind_of(v) for v in values if v is not None and not isinstance(v, Unreadable)}
        given = types.get(name) if isinstance(types, dict) else "text" if types == "text" else None
        kind, formats = given if isinstance(given, tuple) else (given, None)
        if kind is None:
            kind = kind_together(kinds)
            if detects and kinds == {"text"} and name not in (file_column, sheet_column):
                kind = detect([v for v in values if isinstance(v, str)], decimal)
        def as_kind(v):
            if v is None or isinstance(v, Unreadable):
                return None
            if isinstance(v, str) and not isinstance(v, ListText):
                return read_text(v, kind, formats=formats, decimal=decimal, group=group)
            v = int(v) if kind_of(v) == "integer" else v
            return v if kind_of(v) == kind else to_type(v, kind)
        frame[name] = column([as_kind(v) for v in values], kind)
    return pd.DataFrame(frame, index=range(count))
def open_workbook(files, sheets="first", header=1, skip=0, footer=0, area=None, types="detect", decimal=".", group=",", file_column=None, sheet_column=None, known={}):
    """Sheets of workbooks, stacked by column name; rows are counted as seen in each sheet."""
    parts = []
    for path in files:
        with open(path, "rb") as f:
            start = f.read(200)
        for name, _, rows in sheets_wanted(ods_sheets(path) if b"opendocument.spreadsheet" in start else xlsx_sheets(path), sheets):
            rows = [[None if v == "" else v for v in r] for r in rows]
            while rows and all(v is None for v in rows[-1]):
                rows.pop()
            parts.append(parted(within_range(rows, area), header, skip, footer, cell_name) + (os.path.basename(path), name))
    return stack_cells(parts, types, decimal, group, False, file_column, sheet_column, known)`,
  },
  {
    source: `def records_at(document, path):
    """The list of records at a path such as data.items."""
    rest = path or ""
    while rest and isinstance(document, dict):
        key = max((k for k in document if rest == k or rest.startswith(k + ".")), key=len, default=None)
        if key is None:
            break
        document, rest = document[key], rest[len(key) + 1:]
    if rest or not isinstance(document, list) or not all(isinstance(r, dict) for r in document):
        stop(6, "There is no list of records %s." % ("at " + path if path else "at the top of the file"))
    return document
def list_text(items):
    """A list of single values; one with records or lists in it is text."""
    text = json.dumps([int(i) if isinstance(i, float) and i.is_integer() else i for i in items], ensure_ascii=False, separators=(",", ":"))
    return text if any(isinstance(i, (list, dict)) for i in items) else ListText(text)
def flat(record, prefix=""):
    row = {}
    for key, value in record.items():
        if isinstance(value, dict):
            row.update(flat(value, prefix + key + "."))
        else:
            row[prefix + key] = list_text(value) if isinstance(value, list) else float(value) if isinstance(value, int) and not isinstance(value, bool) and abs(value) > MAX_WHOLE else None if value == "" else value
    return row
def open_json(files, path=None, encoding=None, types="detect", decimal=".", group=",", file_column=None, sheet_column=None, known={}):
    """Lists of records, one row each; what is nested becomes columns a.b, lists stay JSON."""
    parts = []
    for file in files:
        with open(file, "rb") as f:
            rows = [flat(r) for r in records_at(json.loads(decode(f.read(), encoding)), path)]
        names = list(dict.fromkeys(k for r in rows for k in r))
        parts.append((names, [[r.get(n) for n in names] for r in rows], os.path.basename(file), ""))
    return stack_cells(parts, types, decimal, group, True, file_column, sheet_column, known)`,
  },
]
