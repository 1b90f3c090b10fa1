def kind_together(kinds):
    """The type that holds values of all these: a number of both kinds is a decimal, a moment of both a date-time, all else text."""
    kinds = set(kinds)
    return (
        "text"
        if not kinds
        else kinds.pop()
        if len(kinds) == 1
        else "decimal"
        if kinds <= {"integer", "decimal"}
        else "datetime"
        if kinds <= {"date", "datetime"}
        else "text"
    )
