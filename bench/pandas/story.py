"""The story of bench/scripts.ts as a colleague who knows pandas would write it by hand."""
import sys

import pandas as pd

visits = pd.read_csv(sys.argv[1], dtype={"Phone": str})
visits = visits.drop(columns=["Desk", "Note"])
day_first = pd.to_datetime(visits["Visit date"], format="%d/%m/%Y", errors="coerce")
year_first = pd.to_datetime(visits["Visit date"], format="%Y-%m-%d", errors="coerce")
visits["Visit date"] = day_first.fillna(year_first)
visits["Charged"] = pd.to_numeric(visits["Charged"].str.replace(r"[£, ]", "", regex=True), errors="coerce")
visits = visits[~visits["Status"].isin(["Cancelled", "Test"])]
visits["Clinic"] = visits["Clinic"].str.strip().str.replace(r"\s+", " ", regex=True)
visits["Clinic"] = visits["Clinic"].replace({"oxbow": "Oxbow", "MARLPIT": "Marlpit"})
visits["Month"] = visits["Visit date"].dt.to_period("M").dt.to_timestamp()
visits["Discount"] = visits["Discount"].fillna(0)
visits["Paid"] = visits["Charged"] * (1 - visits["Discount"])
visits["Kind"] = visits["Service"].str.split("-").str[0]
visits = visits[visits["Weight"] > 5]
visits = visits.drop_duplicates("Ref")
visits["Share"] = visits["Paid"] / visits.groupby("Clinic")["Paid"].transform("sum")
result = visits.groupby(["Clinic", "Month", "Kind"], sort=False, dropna=False, as_index=False).agg(
    Takings=("Paid", "sum"),
    Visits=("Paid", "size"),
    Median=("Charged", "median"),
    Animals=("Animal", "nunique"),
    Share=("Share", "sum"),
)
result = result.sort_values(["Clinic", "Month", "Takings"], ascending=[True, True, False], kind="stable")
result.to_csv(sys.argv[2], index=False)
