from .account import accounts
from .arguments import argument_parser, given_files, named
from .spark_table import begin_session
from .warn import Counts, rows_left, unread


def read_arguments(inputs: dict, outputs: dict, parameters: tuple = ()) -> tuple:
    """The paths of each input and the path of each table, as the command line gives them; Spark begins."""
    names = f"inputs: {', '.join(inputs)}; parameters: {', '.join(parameters)}; tables: {', '.join(outputs)}"
    given = argument_parser("PATH", names).parse_args()
    files = given_files(given.input, inputs, "PATH")
    named("--param", given.param, parameters)
    paths = dict(named("--output", given.output, outputs))
    context = begin_session().sparkContext
    accounts.clear()
    for counts in (unread, rows_left):
        counts[:] = [context.accumulator({}, Counts())]
    return files, paths or {table: f"{given.to.rstrip('/')}/{file}" for table, file in outputs.items()}
