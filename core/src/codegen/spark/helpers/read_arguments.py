import argparse
import datetime

from .account import accounts
from .cast import read_text
from .read_date import read_moment
from .spark_table import session
from .stop import stop
from .warn import Counts, rows_left, unread


def read_arguments(inputs, outputs, parameters):
    """The paths of each input, the parameters, the moment of now and the path of each table, as the command line gives them."""
    def listed(names):
        return ", ".join(names) or "none"

    parser = argparse.ArgumentParser(allow_abbrev=False, epilog=f"inputs: {listed(inputs)}; parameters: {listed(parameters)}; tables: {listed(outputs)}")
    parser.add_argument("--input", action="append", default=[], metavar="NAME=PATH", help="a file, pattern or folder for an input, as Spark reads them; again for more")
    parser.add_argument("--param", action="append", default=[], metavar="NAME=VALUE", help="the value of a parameter")
    parser.add_argument("--now", metavar="MOMENT", help="the moment that TODAY and NOW tell")
    parser.add_argument("--output", action="append", default=[], metavar="TABLE=PATH", help="where a table goes: a CSV file, or with / at the end a folder of Parquet")
    parser.add_argument("--to", default=".", metavar="FOLDER", help="where all tables go")
    parser.add_argument("--strict", action="store_true", help="stop where something should be looked at, instead of saying it")
    parser.add_argument("--quiet", action="store_true", help="do not say what each step left")
    given = parser.parse_args()

    def named(option, words, known):
        for word in words:
            name, sign, value = word.partition("=")
            if not sign or name not in known:
                stop(2, f"{option} {name} is unknown; expected one of: {listed(known)}.")
            yield name, value

    files, values = {name: [] for name in inputs}, dict(parameters)
    for name, path in named("--input", given.input, inputs):
        files[name].append(path)
    for name, paths in files.items():
        if not paths:
            stop(2, f"Say which file is {inputs[name]}: --input {name}=PATH.")
    for name, value in named("--param", given.param, parameters):
        kind = parameters[name][1]
        read = None if value == "" else read_text(value, "decimal" if kind == "integer" else kind)
        whole = read is not None and kind == "integer" and read == int(read)
        values[name] = (int(read) if whole else read, kind)
        if value != "" and (read is None or (kind == "integer" and not whole)):
            stop(2, f"The parameter {name} cannot be {value}: it must be {kind}.")
    now = datetime.datetime.now().replace(microsecond=0) if given.now is None else read_moment(given.now, None, "datetime")
    if now is None:
        stop(2, f"--now {given.now} is not a date and time such as 2031-06-30T08:00:00.")
    paths = dict(named("--output", given.output, outputs))
    accounts.clear()
    for counts in (unread, rows_left):
        counts[:] = [session().sparkContext.accumulator({}, Counts())]
    return files, {name: value for name, (value, _) in values.items()}, now, paths or {table: f"{given.to.rstrip('/')}/{file}" for table, file in outputs.items()}
