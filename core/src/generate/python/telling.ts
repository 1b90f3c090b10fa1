import type { Block } from '../blocks.ts'

/** What a script says of itself, what it writes and how it is called. */
export const telling: readonly Block[] = [
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
  {
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
  },
]
