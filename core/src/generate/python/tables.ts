import type { Block } from '../blocks.ts'

/** Rows in order and in groups, frames turned, matched and laid underneath one another, checks. */
export const tables: readonly Block[] = [
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
]
