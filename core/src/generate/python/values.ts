import { numberSource } from '../../table/number.ts'
import { falseWords, trueWords } from '../../table/reading.ts'
import { space } from '../../table/text.ts'
import type { Block } from '../blocks.ts'
import { py } from '../tag.ts'

const marks = { decimal: '\u0001', group: '\u0002' }
/** The one expression for numbers, its signs put in when the script runs. */
const numberPattern = py`${numberSource(marks)}`.text

/** Values of every type: read, written, compared, computed with. */
export const values: readonly Block[] = [
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
]
