import type { Block } from '../blocks.ts'

/** Columns chosen, named and put in their places, and the conditions on them. */
export const columns: readonly Block[] = [
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
  {
    source:
      'def columns_of_type(frame, kind):\n    return [c for c in frame.columns if type_of(frame[c]) in (("integer", "decimal") if kind == "number" else (kind,))]',
  },
  {
    source:
      'def columns_between(frame, first, last):\n    names = list(frame.columns)\n    return names[names.index(first):names.index(last) + 1]',
  },
  { source: 'def in_table_order(frame, names):\n    return [c for c in frame.columns if c in set(names)]' },
  {
    source:
      'def columns_first(frame, names):\n    return frame[list(names) + [c for c in frame.columns if c not in set(names)]]',
  },
  {
    source: `def move_columns(frame, names, to=None, before=None, after=None):
    rest = [c for c in frame.columns if c not in set(names)]
    beside = list(frame.columns)
    at = 0 if to == "first" else len(rest) if to == "last" else sum(c in set(rest) for c in beside[:beside.index(before) if before else beside.index(after) + 1])
    return frame[rest[:at] + list(names) + rest[at:]]`,
  },
  {
    source:
      'def free_name(wanted, taken):\n    free, n = wanted, 2\n    while free in taken:\n        free, n = "%s %d" % (wanted, n), n + 1\n    return free',
  },
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
  {
    source:
      'def is_one_of(x, values, **how):\n    result = pd.Series(False, index=x.index)\n    for value in values:\n        result = result | is_same(x, value, **how)\n    return result',
  },
  { source: 'def is_none_of(x, values, **how):\n    return ~is_one_of(x, values, **how)' },
  { source: 'def contains(x, value, **how):\n    return test(filled(lambda a, b: b in a), x, value, **how)' },
  { source: 'def contains_not(x, value, **how):\n    return ~contains(x, value, **how)' },
  {
    source: 'def starts_with(x, value, **how):\n    return test(filled(lambda a, b: a.startswith(b)), x, value, **how)',
  },
  { source: 'def starts_not_with(x, value, **how):\n    return ~starts_with(x, value, **how)' },
  { source: 'def ends_with(x, value, **how):\n    return test(filled(lambda a, b: a.endswith(b)), x, value, **how)' },
  {
    source:
      'def matches(x, pattern, ignore_case=False, trim=False):\n    pattern = re.compile(pattern, re.IGNORECASE if ignore_case else 0)\n    return pd.Series([t is not None and pattern.search(t) is not None for t in seen(x, False, trim)], index=x.index, dtype=bool)',
  },
  {
    source:
      'def greater(x, value, **how):\n    return test(filled(lambda a, b: sort_value(a) > sort_value(b)), x, value, **how)',
  },
  {
    source:
      'def at_least(x, value, **how):\n    return test(filled(lambda a, b: sort_value(a) >= sort_value(b)), x, value, **how)',
  },
  {
    source:
      'def less(x, value, **how):\n    return test(filled(lambda a, b: sort_value(a) < sort_value(b)), x, value, **how)',
  },
  {
    source:
      'def at_most(x, value, **how):\n    return test(filled(lambda a, b: sort_value(a) <= sort_value(b)), x, value, **how)',
  },
  { source: 'def between_values(x, low, high, **how):\n    return at_least(x, low, **how) & at_most(x, high, **how)' },
  { source: 'def is_empty(x, **how):\n    return test(lambda a, b: a is None, x, None, **how)' },
  { source: 'def is_filled(x, **how):\n    return ~is_empty(x, **how)' },
  {
    source:
      'def holds(frame, x):\n    """A computed condition; empty counts as no."""\n    return pd.Series([v is True for v in (cells(x) if isinstance(x, pd.Series) else [x] * len(frame))], index=frame.index, dtype=bool)',
  },
]
