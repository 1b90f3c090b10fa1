"""The single steps of bench/run.ts as a colleague who knows pandas would write them by hand: prints the median of each in milliseconds, as JSON."""
import json
import statistics
import sys
import time

import pandas as pd

rows = pd.read_csv(sys.argv[1], parse_dates=["Visit date"])


def five_sentences(t):
    t = t[t["Status"] != "Cancelled"]
    t = t.assign(Month=t["Visit date"].dt.to_period("M").dt.to_timestamp(), Rate=t["Charged"] / t["Minutes"] * 60 + t["Weight"])
    t = t.groupby(["Clinic", "Month"], as_index=False).agg(Sum=("Charged", "sum"), Rate=("Rate", "mean"))
    return t.sort_values("Sum", ascending=False, kind="stable")


steps = {
    "filter, half left": lambda t: t[t["Weight"] > 45],
    "filter on text": lambda t: t[t["Status"] != "Cancelled"],
    "sort by text, then number": lambda t: t.sort_values(["Clinic", "Charged"], ascending=[True, False], kind="stable"),
    "group by one key": lambda t: t.groupby("Clinic", sort=False).agg(Sum=("Charged", "sum"), Rows=("Charged", "size")),
    "group by many keys": lambda t: t.groupby("Animal", sort=False).agg(Mean=("Charged", "mean"), Latest=("Visit date", "max")),
    "distinct": lambda t: t.drop_duplicates(["Animal", "Clinic"]),
    "formula over numbers": lambda t: t.assign(Rate=t["Charged"] / t["Minutes"] * 60 + t["Weight"]),
    "formula over text": lambda t: t.assign(Key=t["Clinic"].str[:3].str.upper()),
    "formula over dates": lambda t: t.assign(Month=t["Visit date"].dt.to_period("M").dt.to_timestamp()),
    "number to text": lambda t: t.assign(Charged=t["Charged"].astype(str)),
    "columns to rows, 3": lambda t: t.melt([c for c in t.columns if c not in ("Charged", "Weight", "Minutes")], var_name="What", value_name="Figure"),
    "a recipe of five steps": five_sentences,
}
medians = {}
for name, step in steps.items():
    times = []
    for _ in range(3):
        began = time.perf_counter()
        step(rows)
        times.append((time.perf_counter() - began) * 1000)
    medians[name] = statistics.median(times)
print(json.dumps(medians))
