import argparse
import datetime

from .cast import read_text
from .read_date import read_moment
from .stop import stop


def argument_parser(place: str = "FILE", epilog: str = "") -> argparse.ArgumentParser:
    """The words that this script takes; `place` is what a table comes from and goes to."""
    parser = argparse.ArgumentParser(allow_abbrev=False, epilog=epilog)
    for word, value, about in [
        ("--input", f"NAME={place}", "where an input comes from; again for more of it"),
        ("--output", f"TABLE={place}", "where a table goes"),
        ("--param", "NAME=VALUE", "the value of a parameter"),
    ]:
        parser.add_argument(word, action="append", default=[], metavar=value, help=about)
    parser.add_argument("--now", metavar="MOMENT", help="the moment that TODAY and NOW tell")
    parser.add_argument("--to", default=".", metavar="FOLDER", help="where all tables go")
    parser.add_argument("--strict", action="store_true", help="stop where something should be looked at")
    parser.add_argument("--quiet", action="store_true", help="do not say what each step left")
    parser.add_argument("--trace-out", metavar="FILE", help="where it goes what each row was made of")  # trace
    return parser


def named(option: str, words: list, known) -> list:
    """The words NAME=VALUE of an option, apart."""
    pairs = [word.partition("=")[::2] for word in words]
    for name, word in zip([name for name, _ in pairs], words):
        if name not in known or "=" not in word:
            stop(2, f"{option} {name} is unknown; expected one of: {', '.join(known) or 'none'}.")
    return pairs


def given_files(words: list, inputs: dict, place: str = "FILE") -> dict:
    """The paths of each input; each has one at least."""
    pairs = named("--input", words, inputs)
    files = {name: [path for other, path in pairs if other == name] for name in inputs}
    for name, paths in files.items():
        if not paths:
            stop(2, f"Say which file is {inputs[name]}: --input {name}={place}.")
    return files


def read_parameters(parameters: dict) -> dict:
    """The value of each parameter, of its type: as given, else its own."""
    values = {name: value for name, (value, _) in parameters.items()}
    for name, value in named("--param", argument_parser().parse_args().param, parameters):
        kind = parameters[name][1]
        read = None if value == "" else read_text(value, "decimal" if kind == "integer" else kind)
        whole = read is not None and kind == "integer" and read == int(read)
        values[name] = int(read) if whole else read
        if value != "" and (read is None or (kind == "integer" and not whole)):
            stop(2, f"The parameter {name} cannot be {value}: it must be {kind}.")
    return values


def read_now() -> datetime.datetime:
    """The moment that is given, else the clock's, to the second."""
    word = argument_parser().parse_args().now
    now = datetime.datetime.now().replace(microsecond=0) if word is None else read_moment(word, None, "datetime")
    if now is None:
        stop(2, f"--now {word} is not a date and time such as 2031-06-30T08:00:00.")
    return now
