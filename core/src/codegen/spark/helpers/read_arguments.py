from .account import accounts
from .arguments import (
    argument_parser,
    given_files,
    given_parameters,
    moment_of_now,
    named,
)
from .spark_table import begin_session
from .warn import Counts, rows_left, unread


def read_arguments(inputs, outputs, parameters):
    """The paths of each input, the parameters, the moment of now and the path of each table, as the command line gives them; Spark begins."""
    given = argument_parser(inputs, outputs, parameters, "PATH", "a file, pattern or folder for an input, as Spark reads them; again for more", "where a table goes: a CSV file, or with / at the end a folder of Parquet").parse_args()
    files, values, now = given_files(given.input, inputs, "PATH"), given_parameters(given.param, parameters), moment_of_now(given.now)
    paths = dict(named("--output", given.output, outputs)) or {table: f"{given.to.rstrip('/')}/{file}" for table, file in outputs.items()}
    context = begin_session().sparkContext
    accounts.clear()
    for counts in (unread, rows_left):
        counts[:] = [context.accumulator({}, Counts())]
    return files, values, now, paths
