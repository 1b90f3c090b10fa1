"""The works of bench/works.ts as a colleague who knows pandas would write them by hand.

Called with the folder of the files and how columns of text are held: "object", "category" (those whose values repeat) or "arrow",
as this pandas reads them; does the works that are named on standard input, a line each, and says how long each took (ms) and how much memory it took at most beside what was held before (MB).
"""
import difflib
import gc
import json
import os
import re
import sys
import tempfile
import time
import warnings

import pandas as pd

folder, dtypes = sys.argv[1:3]
if dtypes != "arrow" and pd.__version__ >= "3":
    warnings.simplefilter("ignore")  # that objects for texts will end some day
    pd.options.future.infer_string = False
out = os.path.join(tempfile.mkdtemp(prefix="fabula-bench-out-"), "out")
held = {}
repeating = ["Clinic", "Species", "Service", "Status", "Animal", "Note"]
months = [f"M{i + 1}" for i in range(12)]


def read(name):
    return pd.read_csv(os.path.join(folder, f"{name}.csv"), parse_dates=["Visit date"] if name in ("visits", "quoted") else False)


def opened(name):
    if name not in held:
        held[name] = read(name)
        if dtypes == "category":
            held[name] = held[name].astype({c: "category" for c in held[name] if c in repeating})
    return held[name]


def three_forms(x):
    found = pd.to_datetime(x, format="%d/%m/%Y", errors="coerce")
    for form in ["%Y-%m-%d", "%d.%m.%Y"]:
        found = found.fillna(pd.to_datetime(x, format=form, errors="coerce"))
    return found


def month_of(t):
    return t.assign(Month=t["Visit date"].dt.to_period("M").dt.to_timestamp())


def rate_of(t):
    return t.assign(Rate=t["Charged"] / t["Minutes"] * 60 + t["Weight"])


def per_month(t):
    t = t.groupby(["Clinic", "Month"], as_index=False, observed=True).agg(Sum=("Charged", "sum"), Rate=("Rate", "mean"))
    return t.sort_values("Sum", ascending=False, kind="stable")


def first_seven(t):
    t = rate_of(month_of(t[t["Status"] != "Cancelled"]))
    t = t.assign(Key=t["Clinic"].str[:3].str.upper())
    t = t[t["Weight"] > 5].drop(columns="Note")
    return t.assign(Charged=t["Charged"].fillna(0))


def group(t, by):
    return t.groupby(by, sort=False, observed=True).agg(Sum=("Charged", "sum"), Rows=("Charged", "size"))


def facts(t):
    found = []
    for c in t.columns[:10]:
        x = t[c]
        found.append((x.isna().sum(), x.nunique(), x.value_counts().head(20), x.describe()))
    return found


def alike(t):
    names = list(t["Clinic"].value_counts().index)
    groups, taken = [], set()
    for name in names:
        if name in taken:
            continue
        near = difflib.get_close_matches(name, [n for n in names if n not in taken], n=100, cutoff=0.9)
        taken.update(near)
        groups.append(near)
    return groups


def many_rows(t):
    return t.melt("Id", months, "Month", "Value")


works = {
    "read CSV with types": ("visits", lambda: read("visits")),
    "read CSV, quoted": ("quoted", lambda: read("quoted")),
    "read CSV, wide text": ("texts", lambda: read("texts")),
    "filter, 0.5 % left": ("visits", lambda t: t[t["Charged"] > 238.8]),
    "filter, half left": ("visits", lambda t: t[t["Weight"] > 45]),
    "filter on text": ("visits", lambda t: t[t["Status"] != "Cancelled"]),
    "sort text, then number": ("visits", lambda t: t.sort_values(["Clinic", "Charged"], ascending=[True, False], kind="stable")),
    "sort, natural": ("visits", lambda t: t.sort_values("Service", kind="stable", key=lambda x: x.astype(object).map(lambda s: re.sub(r"\d+", lambda m: m[0].zfill(8), s)))),
    "group, one key": ("visits", lambda t: group(t, "Clinic")),
    "group, two keys": ("visits", lambda t: group(t, ["Clinic", "Service"])),
    "group, 50,000 keys": ("visits", lambda t: group(t, "Animal")),
    "group, a key a row": ("visits", lambda t: group(t, "Ref")),
    "median": ("visits", lambda t: t.groupby("Clinic", sort=False, observed=True)["Charged"].median()),
    "distinct count": ("visits", lambda t: t.groupby("Clinic", sort=False, observed=True)["Animal"].nunique()),
    "distinct rows": ("visits", lambda t: t.drop_duplicates(["Animal", "Clinic"])),
    "formula over numbers": ("visits", rate_of),
    "formula over few texts": ("visits", lambda t: t.assign(Made=t["Clinic"].str[:3].str.upper())),
    "formula over different texts": ("visits", lambda t: t.assign(Made=t["Ref"].str[:5].str.upper() + "-" + t["Ref"].str[-3:])),
    "formula over dates": ("visits", month_of),
    "dates in three forms": ("raw", lambda t: t.assign(Day=three_forms(t["Day"]))),
    "money to number": ("raw", lambda t: t.assign(Money=pd.to_numeric(t["Money"].str.replace("[£, ]", "", regex=True)))),
    "number to text": ("visits", lambda t: t.assign(Charged=t["Charged"].astype(str))),
    "columns to rows, 3": ("visits", lambda t: t.melt([c for c in t.columns if c not in ("Charged", "Weight", "Minutes")], var_name="What", value_name="Value")),
    "columns to rows, 12": ("months", many_rows),
    "12 columns to rows and back": ("months", lambda t: many_rows(t).pivot(index="Id", columns="Month", values="Value")),
    "join on number": ("bookings", lambda t: t.merge(opened("animals")[["Number", "Beds"]], how="left", on="Number")),
    "join on text": ("bookings", lambda t: t.merge(opened("animals")[["Name", "Beds"]], how="left", on="Name")),
    "join, 10,000 keys": ("bookings", lambda t: t.merge(opened("few"), how="left", on="Few")),
    "join, a key a row": ("bookings", lambda t: t.merge(opened("each"), how="left", on="Each")),
    "join, keys twice": ("bookings", lambda t: t.merge(opened("twice"), how="left", on="Number")),
    "union": ("visits", lambda t: pd.concat([t, t], ignore_index=True)),
    "total of the group beside": ("visits", lambda t: t.assign(Made=t.groupby("Clinic", observed=True)["Charged"].transform("sum"))),
    "rank in the group": ("visits", lambda t: t.assign(Made=t.groupby("Clinic", observed=True)["Charged"].rank(method="min"))),
    "running sum in the group": ("visits", lambda t: t.assign(Made=t.sort_values("Charged", kind="stable").groupby("Clinic", observed=True)["Charged"].cumsum())),
    "suggest spellings that are one": ("raw", alike),
    "facts of 10 columns": ("visits", facts),
    "write CSV": ("visits", lambda t: t.to_csv(out + ".csv", index=False)),
    "write XLSX, 100,000 rows": ("visits", lambda t: t.head(100_000).to_excel(out + ".xlsx", index=False)),
    "write Parquet": ("visits", lambda t: t.to_parquet(out + ".parquet", index=False)),
    "five sentences": ("visits", lambda t: per_month(rate_of(month_of(t[t["Status"] != "Cancelled"])))),
    "ten sentences": ("visits", lambda t: per_month(first_seven(t)[lambda t: t["Minutes"] > 10])),
    "ten sentences, re-run from 8": ("visits", lambda t: per_month(t[t["Minutes"] > 11]), first_seven),
}
others = {"join on number": "animals", "join on text": "animals", "join, 10,000 keys": "few", "join, a key a row": "each", "join, keys twice": "twice"}


def memory():
    """Memory in MB, now and at most since the last call."""
    with open("/proc/self/status") as file:
        status = file.read()
    found = [int(re.search(rf"^{name}:\s+(\d+)", status, re.MULTILINE)[1]) / 1024 for name in ("VmRSS", "VmHWM")]
    with open("/proc/self/clear_refs", "w") as file:
        file.write("5")
    return found


for line in sys.stdin:
    name = line.rstrip("\n")
    file, work, *before = works[name]
    for other in [one for one in held if one not in (file, others.get(name))]:
        del held[other]
    words = []
    if not name.startswith("read "):
        words = [before[0](opened(file)) if before else opened(file)]
        if name in others:
            opened(others[name])
    gc.collect()
    now, _ = memory()
    began = time.perf_counter()
    result = work(*words)
    ms = (time.perf_counter() - began) * 1000
    _, most = memory()
    del result, words
    print(json.dumps({"ms": ms, "mb": max(0, most - now)}), flush=True)
