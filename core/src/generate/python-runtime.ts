import { functions } from '../formula/functions/index.ts'
import { comparison, momentDifference, momentShift, widening } from '../formula/operators.ts'
import { decimalSource, integerSource } from '../table/detect.ts'
import { numberSource } from '../table/number.ts'
import { falseWords, trueWords } from '../table/reading.ts'
import { space } from '../table/text.ts'
import type { Block } from './blocks.ts'
import { py } from './tag.ts'

const marks = { decimal: '\u0001', group: '\u0002' }
/** The one expression for numbers, its signs put in when the script runs. */
const numberPattern = py`${numberSource(marks)}`.text

const pythonBlocks: readonly Block[] = [
  { source: 'MAX_WHOLE = 2 ** 53 - 1' },
  { source: `SPACES = "".join(chr(c) for c in range(0x3001) if re.match(r"[${space}]", chr(c)))` },
  { source: 'MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"]' },
  { source: 'def stop(exit_code, sentence):\n    print(sentence, file=sys.stderr)\n    sys.exit(exit_code)' },
  {
    source: `class ListText(str):
    """A list, as the compact JSON that stands for it."""
def column(values, kind):
    """A column of one type: Int64, float64, boolean, or objects with None for empty."""
    if kind == "integer":
        return pd.Series(pd.array([None if v is None or abs(v) > MAX_WHOLE else int(v) for v in values], dtype="Int64"))
    if kind == "decimal":
        return pd.Series([np.nan if v is None or math.isinf(v) else float(v) + 0.0 for v in values], dtype="float64")
    if kind == "boolean":
        return pd.Series(pd.array(list(values), dtype="boolean"))
    if kind == "list":
        return pd.Series([v if v is None else ListText(v) for v in values], dtype="object")
    return pd.Series([None if v == "" else v for v in values], dtype="object")`,
  },
  {
    source: `def cells(x):
    """The cells of a column as plain Python values, None for empty."""
    if x.dtype == object:
        return x.tolist()
    if x.dtype == "float64":
        return [None if v != v else v for v in x.tolist()]
    return x.astype(object).where(x.notna(), None).tolist()`,
  },
  {
    source: `def type_of(x):
    if x.dtype == "Int64":
        return "integer"
    if x.dtype == "float64":
        return "decimal"
    if x.dtype == "boolean":
        return "boolean"
    first = next((v for v in x.tolist() if v is not None), "")
    return "datetime" if isinstance(first, datetime.datetime) else "date" if isinstance(first, datetime.date) else "time" if isinstance(first, datetime.time) else "list" if isinstance(first, ListText) else "text"`,
  },
  {
    source: `def rows_of(f, args):
    series = [a for a in args if isinstance(a, pd.Series)]
    if not series:
        return f(*args)
    lists = [cells(a) if isinstance(a, pd.Series) else itertools.repeat(a) for a in args]
    return pd.Series([f(*row) for row in itertools.islice(zip(*lists), len(series[0]))], dtype="object")
def attempt(f, *row):
    try:
        result = f(*row)
    except (ValueError, ZeroDivisionError, OverflowError, TypeError, IndexError, calendar.IllegalMonthError):
        return None
    return None if result == "" or isinstance(result, complex) or (isinstance(result, float) and (math.isnan(result) or math.isinf(result))) else result
def by_row_own(f):
    """A function of cells made one of columns; it sees empty cells."""
    return lambda *args: rows_of(lambda *row: attempt(f, *row), args)
def by_row(f):
    """A function of cells made one of columns; an empty cell gives empty."""
    return lambda *args: rows_of(lambda *row: None if any(v is None for v in row) else attempt(f, *row), args)`,
  },
  {
    source: `def failing(x, inner, args, own):
    """The rows in which a part could not be computed, as against being merely empty."""
    def one(x, *rest):
        given = rest[len(inner):]
        return x is None and (any(rest[:len(inner)]) or (own is not None and all(v is not None for v in given) and (own is True or bool(own(*given)))))
    return rows_of(one, [x, *inner, *args])
def failing_branch(x, condition, first, yes, no):
    return rows_of(lambda x, c, f, y, n: x is None and bool(f or (y if c is True else n)), [x, condition, first, yes, no])
def both_fail(a, b):
    return rows_of(lambda a, b: bool(a and b), [a, b])`,
  },
  { source: 'def whole(x):\n    return int(x) if abs(x) <= MAX_WHOLE else None' },
  { source: 'def within(x):\n    return whole(x) if isinstance(x, int) else x' },
  {
    source: `def rounded(x, n, way):
    if n >= 0 and float(x).is_integer():
        return float(x)
    exact = Decimal("%.15g" % x)
    return float(exact if -exact.as_tuple().exponent <= n else exact.quantize(Decimal(1).scaleb(-n), rounding=way)) + 0.0`,
  },
  {
    source: `def shown(x):
    """A value as CSV writes it."""
    if isinstance(x, bool):
        return "true" if x else "false"
    if isinstance(x, float):
        r = float("%.15g" % x)
        if r == 0:
            return "0"
        if 1e-7 <= abs(r) < 1e21:
            text = format(Decimal(repr(r)), "f")
            return text.rstrip("0").rstrip(".") if "." in text else text
        return re.sub(r"e([+-]?)0*", lambda m: "e" + m.group(1).replace("+", ""), repr(r).replace(".0e", "e"))
    if isinstance(x, datetime.datetime):
        return shown(x.date()) + "T" + shown(x.time())
    if isinstance(x, datetime.date):
        return "%04d-%02d-%02d" % (x.year, x.month, x.day)
    if isinstance(x, datetime.time):
        return x.strftime("%H:%M:%S") + (".%03d" % (x.microsecond // 1000) if x.microsecond >= 1000 else "")
    return str(x)`,
  },
  {
    source: `def lower_of(t):
    return t.replace("İ", "i").replace("Σ", "σ").lower()
def text_key(t):
    """Text goes by its small letters, ties by the letters themselves."""
    return (lower_of(t), t)
def natural_key(t):
    return (re.sub(r"[0-9]+", lambda m: "0%04d%s" % (len(m.group().lstrip("0") or "0"), m.group().lstrip("0") or "0"), lower_of(t)), lower_of(t), t)
def sort_value(x):
    return text_key(x) if isinstance(x, str) else x`,
  },
  {
    source: `def arithmetic(f, a, b, always_decimal=False):
    """Numbers with numbers, whole columns at once; out of range is empty."""
    if not isinstance(a, pd.Series) and not isinstance(b, pd.Series):
        return None if a is None or b is None else attempt(lambda x, y: within(f(x, y)), a, b)
    index = (a if isinstance(a, pd.Series) else b).index
    whole_numbers = not always_decimal and all((isinstance(x, int) or x is None) if not isinstance(x, pd.Series) else x.dtype == "Int64" or (x.dtype == object and all(isinstance(v, int) or v is None for v in x)) for x in (a, b))
    def floats(x):
        if isinstance(x, pd.Series):
            return pd.to_numeric(x).to_numpy(dtype="float64", na_value=np.nan) if x.dtype != object else np.array([np.nan if v is None else float(v) for v in x])
        return np.nan if x is None else float(x)
    with np.errstate(all="ignore"):
        result = np.broadcast_to(f(floats(a), floats(b)), len(index)).astype("float64")
    result = np.where(np.isinf(result) | (np.abs(result) > MAX_WHOLE if whole_numbers else False), np.nan, result) + 0.0
    return pd.Series(pd.array([None if v != v else int(v) for v in result], dtype="Int64"), index=index) if whole_numbers else pd.Series(result, index=index)`,
  },
  { source: 'op_plus = lambda a, b: arithmetic(lambda x, y: x + y, a, b)' },
  { source: 'op_minus = lambda a, b: arithmetic(lambda x, y: x - y, a, b)' },
  { source: 'op_times = lambda a, b: arithmetic(lambda x, y: x * y, a, b)' },
  { source: 'op_divide = lambda a, b: arithmetic(lambda x, y: x / y, a, b, always_decimal=True)' },
  { source: 'op_power = lambda a, b: arithmetic(lambda x, y: np.float64(x) ** y, a, b, always_decimal=True)' },
  { source: 'def day_of(d):\n    return d.date() if isinstance(d, datetime.datetime) else d' },
  {
    source: `def between(a, b):
    if not isinstance(a, datetime.datetime) and not isinstance(b, datetime.datetime):
        return (a - b).days
    at = lambda d: d if isinstance(d, datetime.datetime) else datetime.datetime.combine(d, datetime.time())
    return (at(a) - at(b)) / datetime.timedelta(days=1)`,
  },
  {
    source: `def later(a, n):
    if isinstance(a, datetime.datetime):
        return a + datetime.timedelta(milliseconds=math.floor(n * 86400000 + 0.5))
    return a + datetime.timedelta(days=math.floor(n))`,
  },
  {
    source: `@functools.lru_cache(maxsize=None)
def number_pattern(decimal, group):
    sign = lambda s: re.escape(s) if s else "(?!)"
    return re.compile(${numberPattern}.replace("\\u0001", sign(decimal)).replace("\\u0002", sign(group)))
def read_number(t, decimal=".", group=","):
    """Spaces at the ends, one currency sign, groups of thousands, (brackets) for minus, a trailing %."""
    m = number_pattern(decimal, group).fullmatch(t.strip(SPACES))
    if m is None:
        return None
    open_, before, cash, after, digits, fraction, bare, exponent, tail, percent, close = m.groups()
    sign = before or after
    if (open_ is None) != (close is None) or (cash and tail) or (before and after) or (open_ and sign):
        return None
    x = float((digits or "0").replace(group or "\\0", "") + "." + (fraction or bare or "0") + (exponent or ""))
    if math.isinf(x):
        return None
    x = x / 100 if percent else x
    return -x + 0.0 if open_ or sign in ("-", "−") else x`,
  },
  {
    source: py`def read_boolean(t):
    word = lower_of(t.strip(SPACES))
    return True if word in ${trueWords} else False if word in ${falseWords} else None`.text,
  },
  {
    source: `ISO = {"date": [(r"^([0-9]{4})-([0-9]{2})-([0-9]{2})$", "year month day")], "time": [(r"^([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\\.([0-9]{1,3}))?)?$", "hour minute second ms")],
    "datetime": [(r"^([0-9]{4})-([0-9]{2})-([0-9]{2})(?:[T ]([0-9]{2}):([0-9]{2})(?::([0-9]{2})(?:\\.([0-9]{1,3}))?)?)?$", "year month day hour minute second ms")]}
def read_moment(t, patterns, kind):
    """A date, a time or both, by patterns tried in order; None where none fits."""
    for source, names in patterns or ISO[kind]:
        m = re.fullmatch(source, t.strip(SPACES), re.IGNORECASE)
        if m is None:
            continue
        p = {n: v for n, v in zip(names.split(), m.groups()) if v is not None}
        hour = int(p.get("hour", 0))
        if "hour12" in p:
            if not 1 <= int(p["hour12"]) <= 12:
                continue
            hour = int(p["hour12"]) % 12 + (12 if p.get("half", "a")[0] in "pP" else 0)
        month = MONTHS.index(p["monthName"][:3].lower()) + 1 if "monthName" in p else int(p.get("month", 1))
        year = int(p["year2"]) + (2000 if int(p["year2"]) < 50 else 1900) if "year2" in p else int(p["year"]) if "year" in p else None
        try:
            time = datetime.time(hour, int(p.get("minute", 0)), int(p.get("second", 0)), int(p.get("ms", "0").ljust(3, "0")) * 1000)
            if kind == "time":
                return time
            if year is not None:
                day = datetime.date(year, month, int(p.get("day", 1)))
                return day if kind == "date" else datetime.datetime.combine(day, time)
        except ValueError:
            continue
    return None
def read_date(t, patterns=None):
    return read_moment(t, patterns, "date")`,
  },
  {
    source: `def read_text(t, kind, formats=None, decimal=".", group=","):
    """A text as a value of a type, None where it does not read as one."""
    if kind in ("text", "list"):
        return t
    if kind == "boolean":
        return read_boolean(t)
    if kind in ("integer", "decimal"):
        x = read_number(t, decimal, group)
        return x if x is None or kind == "decimal" else to_whole(x)
    return read_moment(t, formats, kind)
def to_whole(x):
    return whole(rounded(x, 0, ROUND_HALF_UP))
def to_type(x, kind):
    """A value of one type as another, None where there is no way."""
    if kind == "text":
        return shown(x)
    if isinstance(x, datetime.datetime):
        return x.date() if kind == "date" else x.time() if kind == "time" else x
    if isinstance(x, datetime.date):
        return datetime.datetime.combine(x, datetime.time()) if kind == "datetime" else x
    if kind == "integer":
        return to_whole(x)
    return float(x) if kind == "decimal" else bool(x) if kind == "boolean" else x
def cast(x, kind, **how):
    if type_of(x) == kind and kind != "text":
        return x
    known = {}
    values = cells(x)
    for v in set(values):
        known[v] = None if v is None else read_text(v, kind, **how) if isinstance(v, str) else to_type(v, kind)
    return column([known[v] for v in values], kind)`,
  },
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
  {
    source: `def require(frame, label, wanted):
    """What the script was written for must be there."""
    missing = [c for c in wanted if c not in frame.columns]
    if missing:
        stop(4, "The file for %s has no column %s. Give a file that has it, or rename the column in it." % (label, ", ".join("“%s”" % c for c in missing)))`,
  },
  {
    source: `def columns_like(frame, pattern):
    """* is any run, ? one character, case ignored."""
    source = "".join(".*" if c == "*" else "." if c == "?" else re.escape(c) for c in pattern)
    return [c for c in frame.columns if re.fullmatch(source, c, re.IGNORECASE | re.DOTALL)]`,
  },
  { source: 'def columns_of_type(frame, kind):\n    return [c for c in frame.columns if type_of(frame[c]) in (("integer", "decimal") if kind == "number" else (kind,))]' },
  { source: 'def columns_between(frame, first, last):\n    names = list(frame.columns)\n    return names[names.index(first):names.index(last) + 1]' },
  { source: 'def in_table_order(frame, names):\n    return [c for c in frame.columns if c in set(names)]' },
  { source: 'def columns_first(frame, names):\n    return frame[list(names) + [c for c in frame.columns if c not in set(names)]]' },
  {
    source: `def move_columns(frame, names, to=None, before=None, after=None):
    rest = [c for c in frame.columns if c not in set(names)]
    beside = list(frame.columns)
    at = 0 if to == "first" else len(rest) if to == "last" else sum(c in set(rest) for c in beside[:beside.index(before) if before else beside.index(after) + 1])
    return frame[rest[:at] + list(names) + rest[at:]]`,
  },
  { source: 'def free_name(wanted, taken):\n    free, n = wanted, 2\n    while free in taken:\n        free, n = "%s %d" % (wanted, n), n + 1\n    return free' },
  {
    source: `def settle_names(frame, wanted):
    """In a clash the renamed column gives way."""
    before = list(frame.columns)
    taken = [w for w, b in zip(wanted, before) if w == b]
    names = []
    for w, b in zip(wanted, before):
        names.append(w if w == b else free_name(w, taken))
        taken.append(names[-1])
    return frame.set_axis(names, axis=1)
def rename_columns(frame, names):
    return settle_names(frame, [names.get(c, c) for c in frame.columns])
def change_names(frame, names, trim, find, replace, case, prefix, suffix):
    def change(name, i):
        name = name.strip(SPACES) if trim else name
        name = name.replace(find, replace) if find else name
        name = {"lower": lower_of, "upper": str.upper, "title": title_of}.get(case, str)(name)
        return prefix + name + suffix or "Column %d" % (i + 1)
    return settle_names(frame, [change(c, i) if c in set(names) else c for i, c in enumerate(frame.columns)])
def title_of(t):
    def word(m):
        at = next((i for i, c in enumerate(m.group()) if c.isalpha()), None)
        return m.group() if at is None else "".join(c.upper() if i == at else lower_of(c) for i, c in enumerate(m.group()))
    return re.sub(r"(?:[^\\W_]|['’])+", word, t)`,
  },
  {
    source: `def place(names, before, after):
    return names.index(before) if before in names else names.index(after) + 1 if after in names else len(names)
def put(frame, name, values, kind, before=None, after=None):
    """A computed column: new, or in place of the one of that name."""
    values = cells(values) if isinstance(values, pd.Series) else [values] * len(frame)
    made = column(values, kind)
    made.index = frame.index
    result = frame.copy()
    if name in result.columns:
        result[name] = made
    else:
        result.insert(place(list(result.columns), before, after), name, made)
    return result`,
  },
  {
    source: `def seen(x, ignore_case, trim):
    """Text as a test sees it."""
    def one(t):
        if not isinstance(t, str):
            return t
        t = t.strip(SPACES) if trim else t
        t = lower_of(t) if ignore_case else t
        return t if t != "" else None
    return [one(t) for t in cells(x)] if isinstance(x, pd.Series) else itertools.repeat(one(x))
def like_with_like(a, b):
    """Dates beside date-times are taken at midnight."""
    if isinstance(a, datetime.datetime) != isinstance(b, datetime.datetime):
        at = lambda d: d if isinstance(d, datetime.datetime) else datetime.datetime.combine(d, datetime.time())
        return at(a), at(b)
    return a, b
def test(f, x, value, ignore_case=False, trim=False):
    return pd.Series([bool(f(*(like_with_like(a, b) if isinstance(a, datetime.date) and isinstance(b, datetime.date) else (a, b)))) for a, b in zip(seen(x, ignore_case, trim), seen(value, ignore_case, trim))], index=x.index, dtype=bool)
def filled(f):
    return lambda a, b: a is not None and b is not None and f(a, b)`,
  },
  { source: 'def is_same(x, value, **how):\n    return test(lambda a, b: a == b, x, value, **how)' },
  { source: 'def is_not(x, value, **how):\n    return test(lambda a, b: a != b, x, value, **how)' },
  { source: 'def is_one_of(x, values, **how):\n    result = pd.Series(False, index=x.index)\n    for value in values:\n        result = result | is_same(x, value, **how)\n    return result' },
  { source: 'def is_none_of(x, values, **how):\n    return ~is_one_of(x, values, **how)' },
  { source: 'def contains(x, value, **how):\n    return test(filled(lambda a, b: b in a), x, value, **how)' },
  { source: 'def contains_not(x, value, **how):\n    return ~contains(x, value, **how)' },
  { source: 'def starts_with(x, value, **how):\n    return test(filled(lambda a, b: a.startswith(b)), x, value, **how)' },
  { source: 'def starts_not_with(x, value, **how):\n    return ~starts_with(x, value, **how)' },
  { source: 'def ends_with(x, value, **how):\n    return test(filled(lambda a, b: a.endswith(b)), x, value, **how)' },
  { source: 'def matches(x, pattern, ignore_case=False, trim=False):\n    pattern = re.compile(pattern, re.IGNORECASE if ignore_case else 0)\n    return pd.Series([t is not None and pattern.search(t) is not None for t in seen(x, False, trim)], index=x.index, dtype=bool)' },
  { source: 'def greater(x, value, **how):\n    return test(filled(lambda a, b: sort_value(a) > sort_value(b)), x, value, **how)' },
  { source: 'def at_least(x, value, **how):\n    return test(filled(lambda a, b: sort_value(a) >= sort_value(b)), x, value, **how)' },
  { source: 'def less(x, value, **how):\n    return test(filled(lambda a, b: sort_value(a) < sort_value(b)), x, value, **how)' },
  { source: 'def at_most(x, value, **how):\n    return test(filled(lambda a, b: sort_value(a) <= sort_value(b)), x, value, **how)' },
  { source: 'def between_values(x, low, high, **how):\n    return at_least(x, low, **how) & at_most(x, high, **how)' },
  { source: 'def is_empty(x, **how):\n    return test(lambda a, b: a is None, x, None, **how)' },
  { source: 'def is_filled(x, **how):\n    return ~is_empty(x, **how)' },
  { source: 'def holds(frame, x):\n    """A computed condition; empty counts as no."""\n    return pd.Series([v is True for v in (cells(x) if isinstance(x, pd.Series) else [x] * len(frame))], index=frame.index, dtype=bool)' },
  {
    source: `def sorted_rows(frame, keys):
    """Positions of rows in order: the first key is the major one; empty cells last either way; equal rows keep their order."""
    ranks = pd.DataFrame(index=frame.index)
    for i, (name, _, *natural) in enumerate(keys):
        values = frame[name]
        if values.dtype == object:
            order = sorted(set(values.dropna()), key=natural_key if natural and type_of(values) == "text" else sort_value)
            values = values.map({v: r for r, v in enumerate(order)})
        ranks[i] = values.astype("float64")
    ranks.index = range(len(frame))
    return ranks.sort_values(list(ranks.columns), ascending=[way == "ascending" for _, way, *_ in keys], kind="stable", na_position="last").index.to_numpy()
def sort_rows(frame, keys):
    return frame.iloc[sorted_rows(frame, keys)].reset_index(drop=True)`,
  },
  {
    source: `def unpivot(frame, groups, name, drop_empty=False, remove=None, remove_pattern=None, renames={}, before=None, after=None):
    """Each row gives one row per label, in column order; the other columns repeat."""
    def label_of(c):
        c = re.sub(remove_pattern, "", c) if remove_pattern is not None else c.replace(remove, "") if remove else c
        return renames.get(c, c)
    groups = [(list(dict.fromkeys(names)), value) for names, value in groups]
    gathered = {c for names, _ in groups for c in names}
    kept = [c for c in frame.columns if c not in gathered]
    turns = []
    if len(groups) == 1:
        turns = [(label_of(c), [c]) for c in groups[0][0]]
    else:
        by_label = {}
        for c in (c for c in frame.columns if c in gathered):
            for g, (names, _) in enumerate(groups):
                if c in names:
                    by_label.setdefault(label_of(c), [None] * len(groups))[g] = c
        turns = list(by_label.items())
    label = free_name(name, kept)
    taken = kept + [label]
    result = frame[kept].loc[frame.index.repeat(len(turns))].reset_index(drop=True)
    at = place(kept, before, after)
    result.insert(at, label, column([l or None for l, _ in turns] * len(frame), "text"))
    values = []
    for g, (names, value) in enumerate(groups):
        kinds = {type_of(frame[c]) for c in names}
        kind = kinds.pop() if len(kinds) == 1 else "decimal" if kinds <= {"integer", "decimal"} else "datetime" if kinds <= {"date", "datetime"} else "text"
        def as_kind(c):
            if c is None:
                return [None] * len(frame)
            return [v if v is None or kind != "text" else shown(v) for v in cells(frame[c])] if kind == "text" else cells(cast(frame[c], kind))
        values.append(free_name(value, taken))
        taken.append(values[-1])
        result.insert(at + 1 + g, values[-1], column([v for row in zip(*[as_kind(columns_[g]) for _, columns_ in turns]) for v in row], kind))
    return result[result[values].notna().any(axis=1)].reset_index(drop=True) if drop_empty else result`,
  },
  {
    source: `def groups_of(frame, by):
    """A number per row, equal for equal keys, in order of first appearance."""
    ids = np.zeros(len(frame), dtype="int64")
    for name in by:
        codes, uniques = pd.factorize(frame[name].astype(object) if frame[name].dtype != "float64" else frame[name])
        ids, _ = pd.factorize(ids * (len(uniques) + 1) + codes + 1)
    return ids
def measure(how, values, kind, separator=", "):
    """One figure of a group; empty cells are passed over, except by count, first and last."""
    known = [v for v in values if v is not None]
    if how == "count":
        return len(values)
    if how == "filled":
        return len(known)
    if how == "distinct":
        return len(set(known))
    if how in ("first", "last"):
        return values[0 if how == "first" else -1] if values else None
    if how == "list":
        return list_of(known)
    if not known:
        return None
    if how == "join":
        return separator.join(shown(v) for v in known)
    if how in ("any", "every"):
        return any(known) if how == "any" else all(known)
    if how in ("sum", "share"):
        return sum(known) if all(isinstance(v, int) for v in known) else math.fsum(known)
    if how == "mean":
        return math.fsum(known) / len(known) if any(isinstance(v, float) for v in known) else sum(known) / len(known)
    if how == "deviation":
        above = [v - known[0] for v in known]
        mean = math.fsum(above) / len(above)
        return math.sqrt(math.fsum((v - mean) ** 2 for v in above) / (len(above) - 1)) if len(above) > 1 else None
    if how == "median":
        known.sort()
        return float(known[len(known) // 2]) if len(known) % 2 else (known[len(known) // 2 - 1] + known[len(known) // 2]) / 2
    return (min if how == "min" else max)(known, key=sort_value)
def group_figures(frame, ids, how, name, kind, more={}):
    """The figure of each group, by its number, in the order of the groups."""
    values = [True] * len(frame) if name is None else cells(frame[name])
    order = np.argsort(ids, kind="stable")
    if "order" in more:
        rows = sorted_rows(frame, more["order"])
        order = rows[np.argsort(ids[rows], kind="stable")]
    starts = list(np.flatnonzero(np.diff(ids[order], prepend=-1))) if len(ids) else []
    sorted_ = [values[i] for i in order]
    figures = [measure(how, sorted_[a:b], kind, more.get("separator", ", ")) for a, b in zip(starts, starts[1:] + [len(sorted_)])]
    if how == "share":
        total = math.fsum(v for v in figures if v is not None)
        figures = [None if v is None or total == 0 else v / total for v in figures]
    return figures
def summarise(frame, by, measures):
    """One row per group."""
    by = list(dict.fromkeys(by))
    ids = groups_of(frame, by)
    order = np.argsort(ids, kind="stable")
    starts = np.flatnonzero(np.diff(ids[order], prepend=-1)) if len(ids) else np.array([], dtype="int64")
    result = frame[by].iloc[order[starts]].reset_index(drop=True)
    if not by:
        result = pd.DataFrame(index=range(1))
    for how, name, wanted, kind, *more in measures:
        figures = group_figures(frame, ids, how, name, kind, *more)
        if not by and not figures:
            figures = [measure(how, [], kind)]
        result[free_name(wanted, list(result.columns))] = column(figures, kind)
    return result`,
  },
  {
    source: `def pivot(frame, labels, values, by=None, found=None, gaps=None, before=None, after=None):
    """A column of each label; a row of each combination of the columns that identify it."""
    used = {labels} | {name for _, name, *_ in values}
    by = [c for c in frame.columns if c not in used] if by is None else list(dict.fromkeys(by))
    ids = groups_of(frame, by)
    texts = [None if v is None else shown(v) for v in cells(frame[labels])]
    found = list(dict.fromkeys(texts)) if found is None else found
    first = {}
    for row, g in enumerate(ids):
        first.setdefault(g, row)
    result = frame[by].iloc[list(first.values())].reset_index(drop=True) if by else pd.DataFrame(index=range(1))
    at = place(by, before, after)
    for label in found:
        rows = [i for i, t in enumerate(texts) if t == label]
        part, part_ids = frame.iloc[rows].reset_index(drop=True), ids[rows]
        order = sorted(set(part_ids))
        dense = np.array([order.index(g) for g in part_ids], dtype="int64") if len(order) < 50 else np.searchsorted(np.array(order), part_ids)
        for how, name, as_, kind, *more in values:
            if how == "only":
                held = {}
                for g, v in zip(part_ids, cells(part[name])):
                    if v is not None and held.get(g) is not None:
                        stop(5, "Two values of “%s” meet in one cell: %s and %s. Choose a measure such as their sum, or another column that tells the rows apart." % (name, shown(held[g]), shown(v)))
                    held[g] = v if v is not None else held.get(g)
            elif how == "share":
                totals = dict(zip(sorted(set(ids)), group_figures(frame, ids, "sum", name, kind)))
                grand = math.fsum(v for v in totals.values() if v is not None)
                held = {g: None if v is None or grand == 0 else v / grand for g, v in zip(order, group_figures(part, dense, "sum", name, kind))}
            else:
                held = dict(zip(order, group_figures(part, dense, how, name, kind, *more)))
            wanted = ("Empty" if label is None else label) + ("" if len(values) == 1 else " " + as_)
            result.insert(at, free_name(wanted, list(result.columns)), column([held[g] if g in held else gaps for g in (first if by else [0])], kind))
            at += 1
    return result`,
  },
  {
    source: `def transpose(frame, names=None):
    """Rows become columns; the old names become the column Name."""
    rest = [c for c in frame.columns if c != names]
    kinds = {type_of(frame[c]) for c in rest}
    kind = kinds.pop() if len(kinds) == 1 else "decimal" if kinds and kinds <= {"integer", "decimal"} else "datetime" if kinds and kinds <= {"date", "datetime"} else "text"
    columns_ = [[v if v is None else shown(v) for v in cells(frame[c])] if kind == "text" else cells(cast(frame[c], kind)) for c in rest]
    titles = [None] * len(frame) if names is None else [None if v is None else shown(v) for v in cells(frame[names])]
    made = {"Name": column(rest, "text")}
    for row, title in enumerate(titles):
        made[free_name("Column %d" % (row + 1) if title is None else title, list(made))] = column([values[row] for values in columns_], kind)
    return pd.DataFrame(made, index=range(len(rest)))`,
  },
  {
    source: `def unroll(frame, name):
    """A list gives a row an item; an empty list gives one row with empty."""
    lists = [[] if v is None else json.loads(v) for v in cells(frame[name])]
    kinds = {"boolean" if isinstance(v, bool) else ("integer" if float(v).is_integer() and abs(v) <= MAX_WHOLE else "decimal") if isinstance(v, (int, float)) else "text" for l in lists for v in l if v is not None}
    kind = kinds.pop() if len(kinds) == 1 else "decimal" if kinds and kinds <= {"integer", "decimal"} else "text"
    result = frame.loc[frame.index.repeat([max(1, len(l)) for l in lists])].reset_index(drop=True)
    items = [v for l in lists for v in (l or [None])]
    at = list(frame.columns).index(name)
    result = result.drop(columns=[name])
    result.insert(at, name, column([None if v is None else item_text(v) if kind == "text" else v for v in items], kind))
    return result`,
  },
  {
    source: `def window(frame, by, order, measures, before=None, after=None):
    """The same figure beside every row of its group; rows stay in place."""
    ids = groups_of(frame, list(dict.fromkeys(by)))
    rows = np.arange(len(frame)) if order is None else sorted_rows(frame, order)
    ties = None if order is None else groups_of(frame, [name for name, *_ in order])
    result = frame.copy()
    at = place(list(frame.columns), before, after)
    for how, name, wanted, kind, more in measures:
        values, made = None if name is None else cells(frame[name]), [None] * len(frame)
        if how in ("rank", "dense-rank", "row-number", "running-sum", "previous", "next"):
            members = {}
            for row in rows:
                members.setdefault(ids[row], []).append(row)
            for group in members.values():
                rank, so_far = 0, []
                for k, row in enumerate(group):
                    if how == "row-number":
                        made[row] = k + 1
                    elif how in ("rank", "dense-rank"):
                        if k == 0 or (ties is not None and ties[row] != ties[group[k - 1]]):
                            rank = rank + 1 if how == "dense-rank" else k + 1
                        made[row] = rank
                    elif how == "running-sum":
                        if values[row] is not None:
                            so_far = [math.fsum(so_far + [values[row]])] if isinstance(values[row], float) else [sum(so_far) + values[row]]
                        made[row] = so_far[0] if so_far else None
                    else:
                        other = k - more.get("offset", 1) if how == "previous" else k + more.get("offset", 1)
                        made[row] = values[group[other]] if 0 <= other < len(group) else None
        elif how == "share":
            totals = group_figures(frame, ids, "sum", name, kind)
            made = [None if v is None or not totals[g] else v / totals[g] for v, g in zip(values, ids)]
        else:
            figures = group_figures(frame, ids, how, name, kind, dict(more, **({"order": order} if order and how in ("first", "last") else {})))
            made = [figures[g] for g in ids]
        made = column(made, kind)
        made.index = result.index
        result.insert(at, free_name(wanted, list(result.columns)), made)
        at += 1
    return result`,
  },
  {
    source: `def join_tables(left, right, how, on, ignore_case=False, trim=False, bring=None, prefix="", matches="all"):
    """Rows in the order of the left table, then of the right; rows only of the right last. Empty keys match nothing."""
    def keys(frame, names):
        def one(v):
            if isinstance(v, str):
                v = v.strip(SPACES) if trim else v
                v = lower_of(v) if ignore_case else v
                return v or None
            return v
        columns_ = [[one(v) for v in cells(frame[n])] for n in names]
        return [None if any(v is None for v in row) else row for row in zip(*columns_)]
    if how == "cross":
        pairs = [(l, r) for l in range(len(left)) for r in range(len(right))]
    else:
        lk, rk, found, met = keys(left, [a for a, _ in on]), keys(right, [b for _, b in on]), {}, set()
        for r, key in enumerate(rk):
            if key is not None:
                found.setdefault(key, []).append(r)
        pairs = []
        for l, key in enumerate(lk):
            rows = found.get(key, []) if key is not None else []
            if not rows:
                if how in ("left", "full", "left-only"):
                    pairs.append((l, -1))
                continue
            met.add(key)
            if how in ("left-only", "right-only"):
                continue
            if matches == "one" and len(rows) > 1:
                stop(5, "A row matches %d rows by %s, and only one match is allowed. Take the first, or make the rows there one of each." % (len(rows), ", ".join(a for a, _ in on)))
            pairs.extend((l, r) for r in (rows if matches == "all" else rows[:1]))
        if how in ("right", "full", "right-only"):
            pairs.extend((-1, r) for r, key in enumerate(rk) if key is None or key not in met)
    ls, rs = [l for l, _ in pairs], [r for _, r in pairs]
    def taken(frame, name, rows):
        values = cells(frame[name])
        return [None if i < 0 else values[i] for i in rows]
    result = {}
    other_of = dict(on)
    if how != "right-only":
        for c in left.columns:
            values, kind = taken(left, c, ls), type_of(left[c])
            if how in ("right", "full") and c in other_of:
                values = [w if l < 0 else v for v, w, l in zip(values, taken(right, other_of[c], rs), ls)]
                kind = "decimal" if {kind, type_of(right[other_of[c]])} == {"integer", "decimal"} else kind
            result[c] = column(values, kind)
    if how != "left-only":
        for c in bring if bring is not None else [c for c in right.columns if how == "right-only" or c not in other_of.values()]:
            result[free_name(prefix + c, list(result))] = column(taken(right, c, rs), type_of(right[c]))
    return pd.DataFrame(result, index=range(len(pairs)))`,
  },
  {
    source: `def union_tables(parts, shared=False, origin=None):
    """Tables under one another, by the names of their columns; what one lacks is empty."""
    parts = [(rename_columns(frame, renames), name) for frame, name, renames in parts]
    names = list(dict.fromkeys(c for frame, _ in parts for c in frame.columns))
    if shared:
        names = [n for n in names if all(n in frame.columns for frame, _ in parts)]
    result = {}
    for n in names:
        kinds = {type_of(frame[n]) for frame, _ in parts if n in frame.columns and (frame[n].dtype != object or frame[n].notna().any())} or {"text"}
        kind = kinds.pop() if len(kinds) == 1 else "decimal" if kinds <= {"integer", "decimal"} else "datetime" if kinds <= {"date", "datetime"} else "text"
        values = []
        for frame, _ in parts:
            if n not in frame.columns:
                values += [None] * len(frame)
            elif kind == "text":
                values += [None if v is None else shown(v) for v in cells(frame[n])]
            else:
                values += cells(cast(frame[n], kind))
        result[n] = column(values, kind)
    if origin is not None:
        result[free_name(origin, list(result))] = column([name for frame, name in parts for _ in range(len(frame))], "text")
    return pd.DataFrame(result, index=range(sum(len(frame) for frame, _ in parts)))`,
  },
  {
    source: `def total_of(frame, name):
    return math.fsum(v for v in cells(frame[name]) if v is not None)
def check_rows(say, figure, at_least=None, at_most=None, stop_here=False):
    """Told where the figure is out of its limits, and where so wished all stops."""
    if (at_least is None or figure >= at_least) and (at_most is None or figure <= at_most):
        return
    if stop_here:
        stop(5, "A check stops the run: %s (%s)" % (say, shown(float(figure))))
    print("A check does not hold: %s (%s)" % (say, shown(float(figure))), file=sys.stderr)`,
  },
  {
    source: `def numbered(frame, start, within=()):
    ids, next_ = groups_of(frame, list(dict.fromkeys(within))), {}
    values = []
    for i in ids:
        next_[i] = next_.get(i, start - 1) + 1
        values.append(next_[i])
    return pd.Series(values, dtype="object")`,
  },
  {
    source: `def fill_empty(x, value):
    others = cells(value) if isinstance(value, pd.Series) else [value] * len(x)
    kind = type_of(x)
    values = [o if v is None else v for v, o in zip(cells(x), others)]
    moments = kind == "datetime"
    return pd.Series([datetime.datetime.combine(v, datetime.time()) if moments and v is not None and not isinstance(v, datetime.datetime) else v for v in values], dtype="object")`,
  },
  {
    source: `def combine(frame, names, name, between, keep=False, before=None, after=None):
    """Texts of several columns joined, empty cells passed over."""
    columns_ = [[None if v is None else shown(v) for v in cells(frame[c])] for c in names]
    values = [between.join(v for v in row if v is not None) for row in zip(*columns_)]
    return put(frame if keep else frame.drop(columns=list(names)), name, pd.Series(values, dtype="object"), "text", before, after)`,
  },
  {
    source: `def clean_text(x, acts):
    import unicodedata
    def without(t, *categories):
        return "".join(c for c in t if not unicodedata.category(c).startswith(categories) or (categories == ("Cc", "Cf") and c in SPACES))
    ways = {
        "trim": lambda t: t.strip(SPACES), "collapse-spaces": lambda t: re.sub("[" + re.escape(SPACES) + "]+", " ", t), "upper": str.upper, "lower": lower_of, "title": title_of,
        "strip-digits": lambda t: without(t, "Nd"), "strip-letters": lambda t: without(t, "L"), "strip-punctuation": lambda t: without(t, "P"), "strip-invisible": lambda t: without(t, "Cc", "Cf"),
    }
    known = {None: None}
    for t in set(cells(x)) - {None}:
        known[t] = functools.reduce(lambda now, act: ways[act](now), acts, t)
    return column([known[t] for t in cells(x)], "text")`,
  },
  {
    source: `def fill(frame, names, direction, within=()):
    """Empty cells take the nearest filled one above or below, within rows alike."""
    ids = groups_of(frame, list(dict.fromkeys(within)))
    order = range(len(frame)) if direction == "down" else range(len(frame) - 1, -1, -1)
    result = frame.copy()
    for name in names:
        values, last = cells(frame[name]), {}
        for i in order:
            if values[i] is not None:
                last[ids[i]] = values[i]
            else:
                values[i] = last.get(ids[i])
        result[name] = column(values, type_of(frame[name]))
    return result`,
  },
  {
    source: `def names_from_row(frame, row):
    """That row gives the names; it and the rows above leave."""
    top = [None] * len(frame.columns) if row > len(frame) else [next(iter(cells(frame[c].iloc[row - 1:row]))) for c in frame.columns]
    return frame.iloc[row:].reset_index(drop=True).set_axis(names_for(["" if v is None else shown(v) for v in top], len(frame.columns)), axis=1)`,
  },
  {
    source: `def names_to_row(frame):
    """The names become the first row, and every column text."""
    return pd.DataFrame({"Column %d" % (i + 1): column([c] + [None if v is None else shown(v) for v in cells(frame[c])], "text") for i, c in enumerate(frame.columns)}, index=range(len(frame) + 1))`,
  },
  {
    source: `def by_cases(branches, otherwise, kind):
    """The value of the first condition that holds in a row."""
    given = lambda v, n: cells(v) if isinstance(v, pd.Series) else itertools.repeat(v, n)
    count = len(branches[0][0])
    made = list(given(otherwise, count))
    for mask, value in reversed(branches):
        made = [v if m else old for m, v, old in zip(mask.tolist(), given(value, count), made)]
    if kind == "datetime":
        made = [datetime.datetime.combine(v, datetime.time()) if v is not None and not isinstance(v, datetime.datetime) else v for v in made]
    return pd.Series(made, dtype="object")`,
  },
  {
    source: `def cuts_by_text(delimiter):
    def cuts(t):
        at = t.find(delimiter)
        while at >= 0:
            yield at, at + len(delimiter)
            at = t.find(delimiter, at + len(delimiter))
    return cuts
def cuts_by_pattern(pattern):
    compiled = re.compile(pattern)
    return lambda t: (m.span() for m in compiled.finditer(t) if m.end() > m.start())
def cuts_by_widths(widths):
    ends = list(itertools.accumulate(widths[:-1]))
    return lambda t: ((e, e) for e in ends if e < len(t))
def pieces_of(t, cuts, at, most=None):
    """What stands beyond the last piece stays joined in it."""
    spans = list(cuts(t))
    spans = spans if at == "every" else spans[:1] if at == "first" else spans[-1:]
    pieces, start = [], 0
    for s, e in spans if most is None else spans[:most - 1]:
        pieces.append(t[start:s])
        start = e
    return pieces + [t[start:]]
def with_pieces(frame, name, made, wanted, keep):
    """The pieces take the place of the column, or stand right after it."""
    at = list(frame.columns).index(name) + (1 if keep else 0)
    result = frame.copy() if keep else frame.drop(columns=[name])
    for i, (want, values) in enumerate(zip(wanted, made)):
        values = column([v or None for v in values], "text")
        values.index = result.index
        result.insert(at + i, free_name(want, list(result.columns)), values)
    return result
def split_to_columns(frame, name, wanted, cuts, at, keep=False):
    values = cells(frame[name])
    known = {t: [] if t is None else pieces_of(t, cuts, at, len(wanted) if wanted else None) for t in set(values)}
    count = len(wanted) if wanted else max([1] + [len(known[t]) for t in values])
    made = [[known[t][i] if i < len(known[t]) else None for t in values] for i in range(count)]
    return with_pieces(frame, name, made, wanted or ["%s %d" % (name, i + 1) for i in range(count)], keep)
def split_to_rows(frame, name, cuts, at, keep=False):
    pieces = [[None] if t is None else pieces_of(t, cuts, at) for t in cells(frame[name])]
    result = frame.loc[frame.index.repeat([len(p) for p in pieces])].reset_index(drop=True)
    return with_pieces(result, name, [[v for p in pieces for v in p]], [name], keep)`,
  },
  {
    source: `def take_part(x, before=None, after=None, between=None, first=None, last=None, start=None, length=None, pattern=None, group=0, occurrence="first"):
    """A part of a text; nothing where it is not found."""
    def find(t, what):
        return t.find(what) if occurrence == "first" else t.rfind(what)
    def inner(t):
        found, at = None, t.find(between[0])
        while at >= 0:
            end = t.find(between[1], at + len(between[0]))
            if end < 0:
                break
            found = t[at + len(between[0]):end]
            if occurrence == "first":
                break
            at = t.find(between[0], at + 1)
        return found
    def one(t):
        if before is not None:
            return t[:find(t, before)] if find(t, before) >= 0 else None
        if after is not None:
            return t[find(t, after) + len(after):] if find(t, after) >= 0 else None
        if between is not None:
            return inner(t)
        if pattern is None:
            return t[:first] if first else t[-last:] if last else t[start - 1:start - 1 + length]
        found = list(re.finditer(pattern, t))
        return found[0 if occurrence == "first" else -1].group(group) if found else None
    known = {t: None if t is None else one(t) or None for t in set(cells(x))}
    return pd.Series([known[t] for t in cells(x)], dtype="object")`,
  },
  {
    source: `def replace_values(x, pairs, match="whole", ignore_case=False):
    """Whole values all at once; parts and patterns one after another."""
    if match == "whole":
        see = lower_of if ignore_case and type_of(x) == "text" else lambda v: v
        known = {see(find): put for find, put in pairs if find is not None}
        return column([v if v is None else known.get(see(v), v) for v in cells(x)], type_of(x))
    flags = re.IGNORECASE if ignore_case else 0
    def change(t):
        for find, put in pairs:
            if t:
                t = t.replace(find, put or "") if match == "part" and not ignore_case else re.sub(re.escape(find) if match == "part" else find, (put or "").replace("\\\\", "\\\\\\\\") if match == "part" else put, t, flags=flags)
        return t or None
    made = {t: None if t is None else change(t) for t in set(cells(x))}
    return column([made[t] for t in cells(x)], "text")`,
  },
  {
    source: `accounts = []
def account(step, frame):
    accounts.append((step, len(frame), len(frame.columns)))
def tell_accounts(sentences):
    for step, rows, columns_ in accounts:
        print("%12s rows × %d columns  %s  %s" % (format(rows, ","), columns_, step, sentences[step]), file=sys.stderr)`,
  },
  {
    source: `def write_csv(frame, path):
    """UTF-8, comma, LF, quotes only where needed, empty is nothing."""
    quote = lambda t: '"' + t.replace('"', '""') + '"' if re.search(r'[",\\r\\n]|^ | \\Z', t) else t
    columns_ = [["" if v is None else quote(shown(v)) for v in cells(frame[c])] for c in frame.columns]
    with open(path, "w", encoding="utf-8", newline="") if path != "-" else contextlib.nullcontext(sys.stdout) as out:
        out.write(",".join(quote(c) for c in frame.columns) + "\\n")
        out.writelines(",".join(row) + "\\n" for row in zip(*columns_))`,
  },
]

const operators = [
  ...(['=', '<>', '<', '<=', '>', '>='] as const).map((op) => comparison(op, 'text')),
  widening('decimal'),
  widening('datetime'),
  momentDifference('integer'),
  momentShift(1, 'date'),
]

const argumentsBlock: Block = {
  source: `def parse_arguments(inputs, outputs, parameters):
    """--input id=file (again for more files), --param "name=value", --now moment, --output table=file, --to folder"""
    files, given, written, now, folder = {}, dict(parameters), {}, None, "."
    words = sys.argv[1:]
    while words:
        word = words.pop(0)
        if word not in ("--input", "--param", "--output", "--now", "--to") or not words:
            stop(2, "%s is not understood; give --input NAME=FILE, --param NAME=VALUE, --now, --output TABLE=FILE or --to FOLDER." % word)
        value = words.pop(0)
        if word == "--now":
            now = read_moment(value, None, "datetime")
            if now is None:
                stop(2, "--now %s is not a date and time such as 2031-06-30T08:00:00." % value)
        elif word == "--to":
            folder = value
        else:
            name, sign, value = value.partition("=")
            known = inputs if word == "--input" else parameters if word == "--param" else outputs
            if not sign or name not in known:
                stop(2, "%s %s is unknown; expected one of: %s." % (word, name, ", ".join(known) or "none"))
            if word == "--input":
                files.setdefault(name, []).append(value)
            elif word == "--param":
                kind = parameters[name][1]
                read = None if value == "" else read_text(value, kind)
                if read is None and value != "":
                    stop(2, "The parameter %s cannot be %s: it must be %s." % (name, value, kind))
                given[name] = (read, kind)
            else:
                written[name] = value
    for name in inputs:
        if name not in files:
            stop(2, "Say which file is %s: --input %s=FILE." % (inputs[name], name))
        for path in files[name]:
            if not os.path.isfile(path):
                stop(6, "There is no file %s." % path)
    written = written or {table: os.path.join(folder, file) for table, file in outputs.items()}
    return files, {name: value for name, (value, _) in given.items()}, now or datetime.datetime.now().replace(microsecond=0), written`,
}

export const pythonRuntime: readonly Block[] = [
  ...pythonBlocks,
  argumentsBlock,
  ...[...operators, ...functions].flatMap(({ pythonHelper }) => (pythonHelper ? [{ source: pythonHelper }] : [])),
]
