from .by_row import by_row

fx_dayname = by_row(
    lambda d: ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"][d.weekday()]
)
