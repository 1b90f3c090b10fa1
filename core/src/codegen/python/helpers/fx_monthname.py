from .by_row import by_row

fx_monthname = by_row(
    lambda d: [
        "January",
        "February",
        "March",
        "April",
        "May",
        "June",
        "July",
        "August",
        "September",
        "October",
        "November",
        "December",
    ][d.month - 1]
)
