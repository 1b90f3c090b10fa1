import argparse
import datetime

from .cast import read_text
from .read_date import read_moment
from .stop import stop


def listed(names):
    return ", ".join(names) or "none"
def argument_parser(inputs, outputs, parameters, place, input_help, output_help):
    """The options that scripts take; `place` is what a table comes from and goes to."""
    parser = argparse.ArgumentParser(allow_abbrev=False, epilog=f"inputs: {listed(inputs)}; parameters: {listed(parameters)}; tables: {listed(outputs)}")
    parser.add_argument("--input", action="append", default=[], metavar=f"NAME={place}", help=input_help)
    parser.add_argument("--param", action="append", default=[], metavar="NAME=VALUE", help="the value of a parameter")
    parser.add_argument("--now", metavar="MOMENT", help="the moment that TODAY and NOW tell")
    parser.add_argument("--output", action="append", default=[], metavar=f"TABLE={place}", help=output_help)
    parser.add_argument("--to", default=".", metavar="FOLDER", help="where all tables go")
    parser.add_argument("--strict", action="store_true", help="stop where something should be looked at, instead of saying it")
    parser.add_argument("--quiet", action="store_true", help="do not say what each step left")
    return parser
def named(option, words, known):
    """The words NAME=VALUE of an option, apart."""
    for word in words:
        name, sign, value = word.partition("=")
        if not sign or name not in known:
            stop(2, f"{option} {name} is unknown; expected one of: {listed(known)}.")
        yield name, value
def given_files(words, inputs, place):
    """The paths of each input; each has one at least."""
    files = {name: [] for name in inputs}
    for name, path in named("--input", words, inputs):
        files[name].append(path)
    for name, paths in files.items():
        if not paths:
            stop(2, f"Say which file is {inputs[name]}: --input {name}={place}.")
    return files
def given_parameters(words, parameters):
    """The value of each parameter: as given, else its own."""
    values = {name: value for name, (value, _) in parameters.items()}
    for name, value in named("--param", words, parameters):
        kind = parameters[name][1]
        read = None if value == "" else read_text(value, "decimal" if kind == "integer" else kind)
        whole = read is not None and kind == "integer" and read == int(read)
        values[name] = int(read) if whole else read
        if value != "" and (read is None or (kind == "integer" and not whole)):
            stop(2, f"The parameter {name} cannot be {value}: it must be {kind}.")
    return values
def moment_of_now(word):
    """The moment that is given, else the clock's, to the second."""
    now = datetime.datetime.now().replace(microsecond=0) if word is None else read_moment(word, None, "datetime")
    if now is None:
        stop(2, f"--now {word} is not a date and time such as 2031-06-30T08:00:00.")
    return now
