import os

from .arguments import argument_parser, given_files, named
from .sources import trace_out  # trace
from .stop import stop


def read_arguments(inputs: dict, outputs: dict, parameters: tuple = ()) -> tuple:
    """The files of each input and the path of each table, as the command line gives them."""
    names = f"inputs: {', '.join(inputs)}; parameters: {', '.join(parameters)}; tables: {', '.join(outputs)}"
    given = argument_parser(epilog=names).parse_args()
    trace_out[:] = [given.trace_out] if given.trace_out else []  # trace
    files = given_files(given.input, inputs)
    for paths in files.values():
        for path in paths:
            if not os.path.isfile(path):
                stop(6, f"There is no file {path}.")
    named("--param", given.param, parameters)
    if given.output:
        return files, dict(named("--output", given.output, outputs))
    os.makedirs(given.to, exist_ok=True)
    return files, {table: os.path.join(given.to, file) for table, file in outputs.items()}
