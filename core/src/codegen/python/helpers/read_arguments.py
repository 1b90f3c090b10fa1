import datetime
import os
import sys

from .cast import read_text
from .read_date import read_moment
from .stop import stop
from .follow import trace_out  # trace


USAGE = """--input NAME=FILE    a file for an input; again for more files
--param NAME=VALUE   the value of a parameter
--now MOMENT         the moment that TODAY and NOW tell
--output TABLE=FILE  where a table goes
--to FOLDER          where all tables go
--trace-out FILE     where it goes which rows of the files each row was made of  # trace
--strict             stop where something should be looked at, instead of saying it
--quiet              do not say what each step left"""


def parse_arguments(inputs, outputs, parameters):
    """--input id=file (again for more files), --param "name=value", --now moment, --output table=file, --to folder"""
    files, given, written, now, folder = {}, dict(parameters), {}, None, "."
    words = sys.argv[1:]
    while words:
        word = words.pop(0)
        if word in ("--strict", "--quiet"):
            continue
        if word == "--help":
            print(USAGE)
            sys.exit(0)
        if word == "--trace-out" and words:  # trace
            trace_out[:] = [words.pop(0)]  # trace
            continue  # trace
        if word not in ("--input", "--param", "--output", "--now", "--to") or not words:
            stop(2, "%s is not understood; give --input NAME=FILE, --param NAME=VALUE, --now, --output TABLE=FILE, --to FOLDER, --strict, --quiet or --help." % word)
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
    return {name: files[name] for name in inputs}, {name: value for name, (value, _) in given.items()}, now or datetime.datetime.now().replace(microsecond=0), written
