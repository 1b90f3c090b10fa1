import os

from .arguments import (
    argument_parser,
    given_files,
    given_parameters,
    moment_of_now,
    named,
)
from .sources import trace_out  # trace
from .stop import stop


def read_arguments(inputs, outputs, parameters):
    """The files of each input, the parameters, the moment of now and the path of each table, as the command line gives them."""
    parser = argument_parser(inputs, outputs, parameters, "FILE", "a file for an input; again for more files", "where a table goes")
    parser.add_argument("--trace-out", metavar="FILE", help="where it goes which rows of the files each row was made of")  # trace
    given = parser.parse_args()
    trace_out[:] = [given.trace_out] if given.trace_out else []  # trace
    files = given_files(given.input, inputs, "FILE")
    for path in (path for paths in files.values() for path in paths):
        if not os.path.isfile(path):
            stop(6, f"There is no file {path}.")
    values, now = given_parameters(given.param, parameters), moment_of_now(given.now)
    paths = dict(named("--output", given.output, outputs))
    if not paths:
        os.makedirs(given.to, exist_ok=True)
        paths = {table: os.path.join(given.to, file) for table, file in outputs.items()}
    return files, values, now, paths
