from .exact_sums import exact_sums


def total_of(table, name):
    return exact_sums(table.df, [], [table.cell(name)]).collect()[0]["s0"] or 0.0
