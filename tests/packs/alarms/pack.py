"""Alarm systems under contract: customers, sites, devices, call-outs, invoices and engineers, in a service desk's words."""

from __future__ import annotations

import datetime as dt

import numpy as np
import pandas as pd

from tests.packs.making import Asked, Pack, days, top

TODAY = dt.date(2026, 8, 1)
NOW = pd.Timestamp(TODAY)
rng = np.random.default_rng(2718)


def _customers() -> pd.DataFrame:
    a = [
        "Alder",
        "Beacon",
        "Cobalt",
        "Dalton",
        "Ember",
        "Fulmar",
        "Granite",
        "Hazel",
        "Ibex",
        "Juniper",
        "Kelso",
        "Lark",
    ]
    b = ["Foods", "Motors", "Dental", "Books", "Storage", "Textiles"]
    return pd.DataFrame(
        {
            "CUST": [f"K{n:03d}" for n in range(1, 73)],
            "NAME": [f"{x} {y}" for x in a for y in b],
            "SECTOR": np.tile(["food", "automotive", "health", "retail", "logistics", "manufacturing"], 12),
            "REGION": rng.choice(["East", "West", "Coast"], 72),
            "CUST_SINCE": rng.integers(2011, 2027, 72),
            "TERMS_DAYS": rng.choice([14, 30, 60], 72, p=[0.3, 0.55, 0.15]),
        }
    )


def _sites(customers: pd.DataFrame) -> pd.DataFrame:
    start = days(rng, "2022-01-01", "2026-07-01", 130)
    ended = pd.Series(rng.random(130) < 0.2)
    return pd.DataFrame(
        {
            "SITE": [f"S{n:04d}" for n in range(1, 131)],
            "CUST": rng.choice(customers.CUST.iloc[:68], 130),
            "CITY": rng.choice(["Marlow Bay", "Tenbury", "Ostrey", "Crail End", "Whitcombe"], 130),
            "PLAN": rng.choice(["Basic", "Plus", "Premium"], 130, p=[0.45, 0.35, 0.2]),
            "MONTHLY_FEE": 0.0,
            "START_DT": start,
            "END_DT": (start + pd.to_timedelta(rng.integers(90, 900, 130), unit="D")).where(ended),
        }
    ).assign(
        MONTHLY_FEE=lambda f: (
            f.PLAN.map({"Basic": 39.0, "Plus": 65.0, "Premium": 110.0}) + rng.integers(0, 4, 130) * 2.5
        )
    )


def _devices(sites: pd.DataFrame) -> pd.DataFrame:
    return pd.DataFrame(
        {
            "SERIAL": [f"X{n:05d}" for n in range(1, 521)],
            "SITE": rng.choice(sites.SITE.iloc[:122], 520),
            "DEV_TYPE": rng.choice(["smoke detector", "motion sensor", "camera", "panic button", "door contact"], 520),
            "MAKER": rng.choice(["Aquila", "Borealis", "Cygnus"], 520),
            "FITTED": days(rng, "2015-01-01", "2026-07-15", 520),
            "BATTERY_PCT": pd.Series(rng.integers(3, 101, 520).astype(float)).where(pd.Series(rng.random(520) < 0.85)),
        }
    )


def _engineers() -> pd.DataFrame:
    return pd.DataFrame(
        {
            "ENG": ["E1", "E2", "E3", "E4", "E5", "E6", "E7"],
            "ENG_NAME": ["Mo Farley", "Ursula Kent", "Dave Ings", "Petra Holm", "Sunil Rao", "Beth Lacey", "Igor Stan"],
            "BASE": ["Tenbury", "Ostrey", "Tenbury", "Marlow Bay", "Crail End", "Ostrey", "Whitcombe"],
            "HIRED": pd.to_datetime(["2014-02-01", "2018-06-11", "2020-09-01", "2021-01-18", "2023-03-06", "2024-10-14", "2026-06-01"]),
            "DAY_RATE": [310, 295, 270, 280, 255, 240, 230],
        }
    )  # fmt: skip


def _callouts(devices: pd.DataFrame) -> pd.DataFrame:
    made = pd.Series(pd.Timestamp("2024-01-01") + pd.to_timedelta(rng.integers(0, 942 * 24 * 60, 1500), unit="min"))
    waited = pd.to_timedelta((rng.gamma(2, 90, 1500)).astype(int) + 5, unit="min")
    worked = pd.to_timedelta(rng.integers(10, 240, 1500), unit="min")
    dropped = pd.Series(rng.random(1500) < 0.04)
    return pd.DataFrame(
        {
            "CALL_NO": range(50001, 51501),
            "SERIAL": rng.choice(devices.SERIAL.iloc[:470], 1500),
            "CALLED_AT": made,
            "ARRIVED_AT": (made + waited).where(~dropped),
            "LEFT_AT": (made + waited + worked).where(~dropped),
            "ENG": rng.choice(["E1", "E2", "E3", "E4", "E5", "E6"], 1500, p=[0.22, 0.2, 0.18, 0.16, 0.14, 0.1]),
            "CAUSE": rng.choice(["false alarm", "battery", "break-in", "fault", "user error"], 1500, p=[0.38, 0.2, 0.06, 0.24, 0.12]),
            "PRIORITY": rng.choice([1, 2, 3], 1500, p=[0.2, 0.5, 0.3]),
            "CHARGE": np.where(rng.random(1500) < 0.5, 0, np.round(rng.uniform(35, 260, 1500), 2)),
        }
    )  # fmt: skip


def _invoices(sites: pd.DataFrame) -> pd.DataFrame:
    rows = rng.choice(130, 900)
    sent = days(rng, "2025-01-01", "2026-07-30", 900)
    paid = sent + pd.to_timedelta(rng.integers(2, 75, 900), unit="D")
    return pd.DataFrame(
        {
            "INV": [f"R{n}" for n in range(1, 901)],
            "SITE": sites.SITE.iloc[rows].to_numpy(),
            "SENT_ON": sent,
            "AMOUNT": np.round(sites.MONTHLY_FEE.iloc[rows].to_numpy() * rng.choice([1, 3], 900), 2),
            "PAID_ON": paid.where((paid <= NOW) & pd.Series(rng.random(900) < 0.94)),
        }
    )


cus = _customers()
sit = _sites(cus)
dev = _devices(sit)
eng = _engineers()
cal = _callouts(dev)
inv = _invoices(sit)
TABLES = {"customers": cus, "sites": sit, "devices": dev, "engineers": eng, "callouts": cal, "invoices": inv}
full = cal.merge(dev, on="SERIAL").merge(sit, on="SITE").merge(cus, on="CUST").merge(eng, on="ENG")
FULL = "callouts JOIN devices USING (SERIAL) JOIN sites USING (SITE) JOIN customers USING (CUST) JOIN engineers USING (ENG)"
invd = inv.merge(sit, on="SITE").merge(cus, on="CUST")
INVD = "invoices JOIN sites USING (SITE) JOIN customers USING (CUST)"
active = sit[sit.END_DT.isna() | (sit.END_DT >= NOW)]
ACTIVE = "(END_DT IS NULL OR END_DT >= DATE '2026-08-01')"
wait = (full.ARRIVED_AT - full.CALLED_AT).dt.total_seconds() / 60
WAIT = "epoch(ARRIVED_AT - CALLED_AT) / 60"


MEANT = {
    "CUST": "customer number", "CUST_SINCE": "year they became a customer", "TERMS_DAYS": "days they have to pay",
    "START_DT": "contract start", "END_DT": "contract end, empty while it runs", "DEV_TYPE": "kind of device",
    "ENG": "engineer number", "INV": "invoice number", "BATTERY_PCT": "battery level in %", "MONTHLY_FEE": "fee a month in £",
}  # fmt: skip
QUESTIONS = [
    Asked("number of customers", 1, "count", "SELECT count(*) FROM customers", lambda: len(cus)),
    Asked("how many sites by plan", 1, "group", "SELECT PLAN, count(*) FROM sites GROUP BY 1", lambda: sit.groupby("PLAN").size()),
    Asked("active sites per city", 3, "state group", f"SELECT CITY, count(*) FROM sites WHERE {ACTIVE} GROUP BY 1", lambda: active.groupby("CITY").size()),
    Asked("monthly income from active contracts", 4, "state sum", f"SELECT sum(MONTHLY_FEE) FROM sites WHERE {ACTIVE}", lambda: active.MONTHLY_FEE.sum()),
    Asked("customers in the health sector on the coast", 2, "filter list", "SELECT NAME FROM customers WHERE SECTOR = 'health' AND REGION = 'Coast'", lambda: cus[(cus.SECTOR == "health") & (cus.REGION == "Coast")][["NAME"]]),
    Asked("customers with no site", 3, "anti-join", "SELECT NAME FROM customers WHERE CUST NOT IN (SELECT CUST FROM sites)", lambda: cus[~cus.CUST.isin(sit.CUST)][["NAME"]]),
    Asked("who has the most sites", 3, "join top", "SELECT NAME, count(*) n FROM sites JOIN customers USING (CUST) GROUP BY 1 ORDER BY n DESC LIMIT 1", lambda: top(sit.merge(cus).groupby("NAME").size()), optional=(1,)),
    Asked("customers since before 2015", 2, "year filter list", "SELECT NAME FROM customers WHERE CUST_SINCE < 2015", lambda: cus[cus.CUST_SINCE < 2015][["NAME"]]),
    Asked("contracts that ended in 2025", 2, "time list", "SELECT SITE FROM sites WHERE year(END_DT) = 2025", lambda: sit[sit.END_DT.dt.year == 2025][["SITE"]]),
    Asked("cameras by maker", 2, "filter group", "SELECT MAKER, count(*) FROM devices WHERE DEV_TYPE = 'camera' GROUP BY 1", lambda: dev[dev.DEV_TYPE == "camera"].groupby("MAKER").size()),
    Asked("devices with a battery under 20 percent", 2, "filter list", "SELECT SERIAL FROM devices WHERE BATTERY_PCT < 20", lambda: dev[dev.BATTERY_PCT < 20][["SERIAL"]]),
    Asked("sites with at least one device below 10% battery", 3, "has", "SELECT DISTINCT SITE FROM devices WHERE BATTERY_PCT < 10", lambda: dev[dev.BATTERY_PCT < 10][["SITE"]].drop_duplicates()),
    Asked("average age of the devices in years by type", 4, "age group", "SELECT DEV_TYPE, avg(date_diff('day', FITTED, DATE '2026-08-01') / 365.25) FROM devices GROUP BY 1", lambda: ((NOW - dev.FITTED).dt.days / 365.25).groupby(dev.DEV_TYPE).mean(), note="near enough in whole years too", also=(lambda: ((NOW - dev.FITTED).dt.days // 365.25).groupby(dev.DEV_TYPE).mean(),)),
    Asked("devices fitted more than ten years ago", 3, "age list", "SELECT SERIAL FROM devices WHERE FITTED < DATE '2016-08-01'", lambda: dev[dev.FITTED < "2016-08-01"][["SERIAL"]]),
    Asked("call-outs per cause", 1, "group", "SELECT CAUSE, count(*) FROM callouts GROUP BY 1", lambda: cal.groupby("CAUSE").size()),
    Asked("share of false alarms", 3, "share", "SELECT avg((CAUSE = 'false alarm')::int) FROM callouts", lambda: (cal.CAUSE == "false alarm").mean(), percent=(0,)),
    Asked("false alarm rate by device type", 3, "share join group", f"SELECT DEV_TYPE, avg((CAUSE = 'false alarm')::int) FROM {FULL} GROUP BY 1", lambda: (full.CAUSE == "false alarm").groupby(full.DEV_TYPE).mean(), percent=(1,)),
    Asked("callouts per 100 devices by maker", 4, "ratio join", "SELECT MAKER, count(CALL_NO) * 100.0 / count(DISTINCT SERIAL) FROM devices LEFT JOIN callouts USING (SERIAL) GROUP BY 1", lambda: full.groupby("MAKER").size() * 100 / dev.groupby("MAKER").size()),
    Asked("how long does it take until an engineer arrives, in minutes", 3, "duration", f"SELECT avg({WAIT}) FROM callouts", lambda: ((cal.ARRIVED_AT - cal.CALLED_AT).dt.total_seconds() / 60).mean()),
    Asked("and by priority?", 3, "follow-up group", f"SELECT PRIORITY, avg({WAIT}) FROM callouts GROUP BY 1", lambda: ((cal.ARRIVED_AT - cal.CALLED_AT).dt.total_seconds() / 60).groupby(cal.PRIORITY).mean(), after=1),
    Asked("share of priority 1 calls reached within two hours", 4, "share duration filter", f"SELECT avg(({WAIT} <= 120)::int) FROM callouts WHERE PRIORITY = 1 AND ARRIVED_AT IS NOT NULL", lambda: (lambda w: (w <= 120).mean())(wait[(full.PRIORITY == 1) & full.ARRIVED_AT.notna()]), percent=(0,), note="of those reached", also=(lambda: (wait[full.PRIORITY == 1] <= 120).mean(),)),
    Asked("calls where nobody came", 4, "state gap list", "SELECT CALL_NO FROM callouts WHERE ARRIVED_AT IS NULL", lambda: cal[cal.ARRIVED_AT.isna()][["CALL_NO"]]),
    Asked("fastest engineer on average, from call to arrival", 4, "duration top", f"SELECT ENG_NAME, avg({WAIT}) w FROM {FULL} GROUP BY 1 ORDER BY w LIMIT 1", lambda: top(wait.groupby(full.ENG_NAME).mean(), rising=True), optional=(1,)),
    Asked("calls at night (10pm to 6am) by cause", 4, "hours group", "SELECT CAUSE, count(*) FROM callouts WHERE hour(CALLED_AT) >= 22 OR hour(CALLED_AT) < 6 GROUP BY 1", lambda: cal[(cal.CALLED_AT.dt.hour >= 22) | (cal.CALLED_AT.dt.hour < 6)].groupby("CAUSE").size()),
    Asked("which hour of the day has the most calls", 3, "hour top", "SELECT hour(CALLED_AT) h, count(*) n FROM callouts GROUP BY 1 ORDER BY n DESC LIMIT 1", lambda: top(cal.groupby(cal.CALLED_AT.dt.hour).size()), optional=(1,)),
    Asked("weekend calls vs weekday calls", 4, "two groups", "SELECT isodow(CALLED_AT) >= 6 w, count(*) FROM callouts GROUP BY 1", lambda: (lambda s: pd.DataFrame({"w": s.index, "n": s.to_numpy()}))(cal.groupby(cal.CALLED_AT.dt.weekday >= 5).size()), side=True),
    Asked("engineers who had no calls at all", 3, "anti-join", "SELECT ENG_NAME FROM engineers WHERE ENG NOT IN (SELECT ENG FROM callouts)", lambda: eng[~eng.ENG.isin(cal.ENG)][["ENG_NAME"]]),
    Asked("total charged per engineer", 3, "join sum", f"SELECT ENG_NAME, sum(CHARGE) FROM {FULL} GROUP BY 1", lambda: full.groupby("ENG_NAME").CHARGE.sum()),
    Asked("average charge of calls that were charged", 4, "filter mean", "SELECT avg(CHARGE) FROM callouts WHERE CHARGE > 0", lambda: cal[cal.CHARGE > 0].CHARGE.mean()),
    Asked("percentage of calls free of charge", 4, "share zero", "SELECT avg((CHARGE = 0)::int) FROM callouts", lambda: (cal.CHARGE == 0).mean(), percent=(0,)),
    Asked("top 5 customers by number of call-outs this year", 3, "join time top", f"SELECT NAME, count(*) n FROM {FULL} WHERE year(CALLED_AT) = 2026 GROUP BY 1 ORDER BY n DESC LIMIT 5", lambda: top(full[full.CALLED_AT.dt.year == 2026].groupby("NAME").size(), 5), note="ties at the end"),
    Asked("calls per month, 2024 against 2025", 4, "compare periods", "SELECT month(CALLED_AT), count(*) FILTER (year(CALLED_AT) = 2024), count(*) FILTER (year(CALLED_AT) = 2025) FROM callouts GROUP BY 1", lambda: pd.DataFrame({y: cal[cal.CALLED_AT.dt.year == y].groupby(cal.CALLED_AT.dt.month).size() for y in (2024, 2025)}).reset_index()),
    Asked("engineers working from Tenbury and their hire dates", 2, "filter list", "SELECT ENG_NAME, HIRED::date FROM engineers WHERE BASE = 'Tenbury'", lambda: eng[eng.BASE == "Tenbury"][["ENG_NAME", "HIRED"]]),
    Asked("longest serving engineer", 3, "adjective date top", "SELECT ENG_NAME FROM engineers ORDER BY HIRED LIMIT 1", lambda: eng.nsmallest(1, "HIRED")[["ENG_NAME"]]),
    Asked("do engineers go to other cities than their base? share of calls", 4, "compare columns share", f"SELECT avg((CITY <> BASE)::int) FROM {FULL}", lambda: (full.CITY != full.BASE).mean(), percent=(0,)),
    Asked("unpaid invoices", 2, "state list", "SELECT INV FROM invoices WHERE PAID_ON IS NULL", lambda: inv[inv.PAID_ON.isna()][["INV"]]),
    Asked("amount unpaid by customer, worst five", 3, "state join top", f"SELECT NAME, sum(AMOUNT) s FROM {INVD} WHERE PAID_ON IS NULL GROUP BY 1 ORDER BY s DESC LIMIT 5", lambda: top(invd[invd.PAID_ON.isna()].groupby("NAME").AMOUNT.sum(), 5), ordered=True),
    Asked("average days to pay per sector", 3, "duration join group", f"SELECT SECTOR, avg(date_diff('day', SENT_ON, PAID_ON)) FROM {INVD} GROUP BY 1", lambda: (invd.PAID_ON - invd.SENT_ON).dt.days.groupby(invd.SECTOR).mean()),
    Asked("invoices paid later than the customer's terms allow", 4, "duration compare column", f"SELECT INV FROM {INVD} WHERE date_diff('day', SENT_ON, PAID_ON) > TERMS_DAYS", lambda: invd[(invd.PAID_ON - invd.SENT_ON).dt.days > invd.TERMS_DAYS][["INV"]]),
    Asked("billed per month this year", 2, "time sum", "SELECT date_trunc('month', SENT_ON)::date, sum(AMOUNT) FROM invoices WHERE year(SENT_ON) = 2026 GROUP BY 1", lambda: (lambda i: i.groupby(i.SENT_ON.dt.to_period("M")).AMOUNT.sum())(inv[inv.SENT_ON.dt.year == 2026])),
    Asked("plot it as a cumulative total", 3, "follow-up running", "SELECT m, sum(s) OVER (ORDER BY m) FROM (SELECT date_trunc('month', SENT_ON)::date m, sum(AMOUNT) s FROM invoices WHERE year(SENT_ON) = 2026 GROUP BY 1)", lambda: (lambda i: i.groupby(i.SENT_ON.dt.to_period("M")).AMOUNT.sum().cumsum())(inv[inv.SENT_ON.dt.year == 2026]), after=1, ordered=True),
    Asked("average number of devices per site by plan", 4, "two step mean", "SELECT PLAN, avg(n) FROM (SELECT SITE, PLAN, count(*) n FROM devices JOIN sites USING (SITE) GROUP BY 1, 2) GROUP BY 1", lambda: dev.merge(sit).groupby(["PLAN", "SITE"]).size().groupby("PLAN").mean(), note="of sites with devices", also=(lambda: dev.merge(sit).groupby("PLAN").size() / sit.groupby("PLAN").size(),)),
    Asked("premium sites without a camera", 4, "filter anti-join", "SELECT SITE FROM sites WHERE PLAN = 'Premium' AND SITE NOT IN (SELECT SITE FROM devices WHERE DEV_TYPE = 'camera')", lambda: sit[(sit.PLAN == "Premium") & ~sit.SITE.isin(dev[dev.DEV_TYPE == "camera"].SITE)][["SITE"]]),
    Asked("sites that had a break-in", 3, "has list", f"SELECT DISTINCT SITE FROM {FULL} WHERE CAUSE = 'break-in'", lambda: full[full.CAUSE == "break-in"][["SITE"]].drop_duplicates()),
    Asked("median fee per plan and region", 3, "join group two median", "SELECT PLAN, REGION, median(MONTHLY_FEE) FROM sites JOIN customers USING (CUST) GROUP BY 1, 2", lambda: sit.merge(cus).groupby(["PLAN", "REGION"]).MONTHLY_FEE.median()),
    Asked("new contracts per quarter", 2, "time group", "SELECT date_trunc('quarter', START_DT)::date, count(*) FROM sites GROUP BY 1", lambda: sit.groupby(sit.START_DT.dt.to_period("Q")).size()),
    Asked("what is the cost per day of the whole engineering team", 2, "sum", "SELECT sum(DAY_RATE) FROM engineers", lambda: eng.DAY_RATE.sum()),
    Asked("how many vans do the engineers have", 1, "trap", outcome=("asks", "declined"), note="no vans here"),
    Asked("smoke detecters in Ostrey", 2, "typo join filter", "SELECT SERIAL FROM devices JOIN sites USING (SITE) WHERE DEV_TYPE = 'smoke detector' AND CITY = 'Ostrey'", lambda: dev.merge(sit)[lambda f: (f.DEV_TYPE == "smoke detector") & (f.CITY == "Ostrey")][["SERIAL"]], note="the list, or how many", also=(lambda: int((dev.merge(sit)[["DEV_TYPE", "CITY"]] == ["smoke detector", "Ostrey"]).all(axis=1).sum()),)),
    Asked("did the number of break-ins fall between the first half of 2025 and the first half of 2026", 4, "compare periods", "SELECT year(CALLED_AT) y, count(*) FROM callouts WHERE CAUSE = 'break-in' AND month(CALLED_AT) <= 6 AND year(CALLED_AT) IN (2025, 2026) GROUP BY 1", lambda: (lambda c: c.groupby(c.CALLED_AT.dt.year).size())(cal[(cal.CAUSE == "break-in") & (cal.CALLED_AT.dt.month <= 6) & cal.CALLED_AT.dt.year.isin([2025, 2026])]), note="or side by side", side=True),
]  # fmt: skip

PACK = Pack(
    "Alarms under contract", "Customers, sites, devices, call-outs, invoices.", TODAY, TABLES, QUESTIONS, columns=MEANT
)
