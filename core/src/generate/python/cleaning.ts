import type { Block } from '../blocks.ts'

/** Values cleaned, filled, split and replaced. */
export const cleaning: readonly Block[] = [
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
]
