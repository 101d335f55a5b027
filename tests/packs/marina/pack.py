"""A marina: berths, boats, owners, mooring contracts, payments and jobs at the yard, in the harbour office's words."""

from __future__ import annotations

import datetime as dt

import numpy as np
import pandas as pd

from tests.packs.making import Asked, Pack, days, top

TODAY = dt.date(2026, 9, 15)
NOW = pd.Timestamp(TODAY)
rng = np.random.default_rng(7)


def _berths() -> pd.DataFrame:
    pontoon = np.repeat(list("ABCDE"), 24)
    length = np.select([pontoon == "A", pontoon == "B", pontoon == "C"], [8, 10, 12], 15) + rng.integers(0, 3, 120)
    return pd.DataFrame(
        {
            "berth_id": [f"{p}{n:02d}" for p, n in zip(pontoon, list(range(1, 25)) * 5, strict=True)],
            "pontoon": pontoon,
            "max_length_m": length,
            "power": rng.choice(["none", "16A", "32A"], 120, p=[0.2, 0.5, 0.3]),
            "water": rng.choice(["Y", "N"], 120, p=[0.85, 0.15]),
            "yearly_fee": length * 210 + rng.integers(0, 5, 120) * 25,
        }
    )


def _owners() -> pd.DataFrame:
    first = rng.choice(["Alma", "Bert", "Cora", "Dougal", "Effie", "Finn", "Greta", "Hamish", "Isla", "Jock"], 140)
    last = rng.choice(["Anstruther", "Bain", "Calder", "Dunmore", "Eadie", "Fyfe", "Gow", "Hendry", "Innes"], 140)
    return pd.DataFrame(
        {
            "owner_id": [f"OW{n:03d}" for n in range(1, 141)],
            "owner": [f"{a} {b}" for a, b in zip(first, last, strict=True)],
            "home_town": rng.choice(["Kirkness", "Port Alder", "Leith Row", "Scarra", "Dunlinn"], 140),
            "member_since": days(rng, "2009-01-01", "2026-08-01", 140),
            "club_member": rng.choice(["Y", "N"], 140, p=[0.55, 0.45]),
        }
    )


def _boats(owners: pd.DataFrame) -> pd.DataFrame:
    kind = rng.choice(
        ["sailing yacht", "motor cruiser", "rib", "narrowboat", "dinghy"], 170, p=[0.4, 0.3, 0.12, 0.08, 0.1]
    )
    size = {"sailing yacht": 10.2, "motor cruiser": 9.4, "rib": 6.1, "narrowboat": 14.5, "dinghy": 4.2}
    length = np.round([max(3.0, rng.normal(size[k], 1.3)) for k in kind], 2)
    names = rng.permutation(
        [
            f"{a} {b}"
            for a in (
                "Grey",
                "Sea",
                "Wild",
                "Lucky",
                "Blue",
                "Silver",
                "Night",
                "Lady",
                "Old",
                "Swift",
                "Merry",
                "Salt",
                "Brave",
                "Little",
            )
            for b in (
                "Gull",
                "Otter",
                "Star",
                "Maid",
                "Heron",
                "Wind",
                "Seal",
                "Rover",
                "Tern",
                "Fox",
                "Hope",
                "Lass",
                "Dancer",
            )
        ]
    )[:170]
    return pd.DataFrame(
        {
            "boat_id": range(301, 471),
            "boat_name": names,
            "kind": kind,
            "length_m": length,
            "built": rng.integers(1968, 2026, 170),
            "owner_id": rng.choice(owners.owner_id.iloc[:128], 170),
            "insured_until": days(rng, "2025-10-01", "2027-08-01", 170).where(pd.Series(rng.random(170) < 0.93)),
        }
    )  # fmt: skip


def _contracts(berths: pd.DataFrame, boats: pd.DataFrame) -> pd.DataFrame:
    start = days(rng, "2023-04-01", "2026-08-20", 260)
    months = rng.choice([6, 12, 12, 24], 260)
    berth = berths.sample(260, replace=True, random_state=3).reset_index(drop=True)
    cancelled = pd.Series(rng.random(260) < 0.08)
    end = start + pd.to_timedelta(months * 30.4, unit="D").round("D")
    return pd.DataFrame(
        {
            "contract_no": range(7001, 7261),
            "berth_id": berth.berth_id,
            "boat_id": rng.choice(boats.boat_id, 260),
            "start_date": start,
            "end_date": end,
            "agreed_fee": np.round(berth.yearly_fee * months / 12 * rng.choice([1, 1, 0.9, 0.95], 260), 2),
            "cancelled_on": (start + pd.to_timedelta(rng.integers(20, 150, 260), unit="D")).where(
                cancelled & (start < NOW - pd.Timedelta(days=150))
            ),
        }
    )


def _payments(contracts: pd.DataFrame) -> pd.DataFrame:
    rows = rng.choice(len(contracts), 640)
    chosen = contracts.iloc[rows].reset_index(drop=True)
    due = chosen.start_date + pd.to_timedelta(rng.integers(0, 9, 640) * 30, unit="D")
    paid = due + pd.to_timedelta(rng.integers(-10, 40, 640), unit="D")
    seen = (paid <= NOW) & pd.Series(rng.random(640) < 0.93)
    return pd.DataFrame(
        {
            "payment_id": range(1, 641),
            "contract_no": chosen.contract_no,
            "due_on": due,
            "amount": np.round(chosen.agreed_fee / 6, 2),
            "paid_on": paid.where(seen),
            "method": rng.choice(["card", "bank transfer", "cash"], 640, p=[0.45, 0.5, 0.05]),
        }
    )


def _jobs(boats: pd.DataFrame) -> pd.DataFrame:
    came = days(rng, "2024-01-05", "2026-09-10", 380)
    took = pd.to_timedelta(rng.integers(0, 45, 380), unit="D")
    done = (came + took).where(came + took <= NOW)
    return pd.DataFrame(
        {
            "job_id": range(1001, 1381),
            "boat_id": rng.choice(boats.boat_id.iloc[:150], 380),
            "work": rng.choice(["antifouling", "engine service", "rigging", "lift out", "hull repair", "electrics"], 380),
            "booked_in": came,
            "finished": done,
            "labour_hours": np.round(rng.gamma(3, 2.5, 380), 1),
            "labour_cost": np.round(rng.gamma(3, 140, 380), 2),
            "parts_cost": np.round(rng.gamma(1.4, 160, 380), 2),
            "foreman": rng.choice(["Rab", "Sheena", "Tam"], 380),
        }
    )  # fmt: skip


ber = _berths()
own = _owners()
boa = _boats(own)
con = _contracts(ber, boa)
pay = _payments(con)
job = _jobs(boa)
TABLES = {"berths": ber, "owners": own, "boats": boa, "contracts": con, "payments": pay, "yard_jobs": job}
full = con.merge(ber, on="berth_id").merge(boa, on="boat_id").merge(own, on="owner_id")
FULL = "contracts JOIN berths USING (berth_id) JOIN boats USING (boat_id) JOIN owners USING (owner_id)"
live = con[(con.start_date <= NOW) & (con.end_date >= NOW) & con.cancelled_on.isna()]
LIVE = "start_date <= DATE '2026-09-15' AND end_date >= DATE '2026-09-15' AND cancelled_on IS NULL"
jobs = job.merge(boa, on="boat_id").merge(own, on="owner_id")
paid = pay.merge(full, on="contract_no")
job_total = job.labour_cost + job.parts_cost


QUESTIONS = [
    Asked("How many berths are there on pontoon C?", 2, "filter count", "SELECT count(*) FROM berths WHERE pontoon = 'C'", lambda: int((ber.pontoon == "C").sum())),
    Asked("boats by kind", 1, "group count", "SELECT kind, count(*) FROM boats GROUP BY 1", lambda: boa.groupby("kind").size()),
    Asked("longest boat", 1, "top", "SELECT boat_name FROM boats ORDER BY length_m DESC LIMIT 1", lambda: boa.nlargest(1, "length_m")[["boat_name"]]),
    Asked("average length of the motor cruisers", 2, "filter mean", "SELECT avg(length_m) FROM boats WHERE kind = 'motor cruiser'", lambda: boa[boa.kind == "motor cruiser"].length_m.mean()),
    Asked("boats built before 1980", 2, "filter list year", "SELECT boat_name FROM boats WHERE built < 1980", lambda: boa[boa.built < 1980][["boat_name"]]),
    Asked("how old is the average rib", 4, "age mean", "SELECT avg(2026 - built) FROM boats WHERE kind = 'rib'", lambda: (2026 - boa[boa.kind == "rib"].built).mean()),
    Asked("owners from Scarra", 2, "filter list", "SELECT owner_id FROM owners WHERE home_town = 'Scarra'", lambda: own[own.home_town == "Scarra"][["owner_id"]]),
    Asked("number of boats per home town of the owner", 3, "join group", "SELECT home_town, count(*) FROM boats JOIN owners USING (owner_id) GROUP BY 1", lambda: boa.merge(own).groupby("home_town").size()),
    Asked("Who owns more than two boats?", 3, "has at least list", "SELECT owner_id FROM boats GROUP BY 1 HAVING count(*) > 2", lambda: (lambda s: s[s > 2].reset_index()[["owner_id"]])(boa.groupby("owner_id").size())),
    Asked("owners without a boat", 3, "anti-join list", "SELECT owner_id FROM owners WHERE owner_id NOT IN (SELECT owner_id FROM boats)", lambda: own[~own.owner_id.isin(boa.owner_id)][["owner_id"]]),
    Asked("total fees agreed in contracts that started this year", 3, "filter time sum", "SELECT sum(agreed_fee) FROM contracts WHERE year(start_date) = 2026", lambda: con[con.start_date.dt.year == 2026].agreed_fee.sum()),
    Asked("how many contracts are running today", 4, "state now", f"SELECT count(*) FROM contracts WHERE {LIVE}", lambda: len(live)),
    Asked("contracts cancelled in 2025", 2, "state time list", "SELECT contract_no FROM contracts WHERE year(cancelled_on) = 2025", lambda: con[con.cancelled_on.dt.year == 2025][["contract_no"]]),
    Asked("percentage of contracts that got cancelled", 3, "share state", "SELECT avg((cancelled_on IS NOT NULL)::int) FROM contracts", lambda: con.cancelled_on.notna().mean(), percent=(0,)),
    Asked("payments by method", 1, "group", "SELECT method, count(*) FROM payments GROUP BY 1", lambda: pay.groupby("method").size(), note="a count, or the sums", also=(lambda: pay.groupby("method").amount.sum(),)),
    Asked("how much money is outstanding?", 4, "state sum", "SELECT sum(amount) FROM payments WHERE paid_on IS NULL", lambda: pay[pay.paid_on.isna()].amount.sum()),
    Asked("how much of that is overdue", 4, "follow-up state", "SELECT sum(amount) FROM payments WHERE paid_on IS NULL AND due_on < DATE '2026-09-15'", lambda: pay[pay.paid_on.isna() & (pay.due_on < NOW)].amount.sum(), after=1),
    Asked("payments that came in late, by method", 3, "state group", "SELECT method, count(*) FROM payments WHERE paid_on > due_on GROUP BY 1", lambda: pay[pay.paid_on > pay.due_on].groupby("method").size()),
    Asked("average number of days late of late payments", 4, "duration state", "SELECT avg(date_diff('day', due_on, paid_on)) FROM payments WHERE paid_on > due_on", lambda: (lambda p: (p.paid_on - p.due_on).dt.days.mean())(pay[pay.paid_on > pay.due_on])),
    Asked("share of payments made on time", 4, "share state", "SELECT avg((paid_on <= due_on)::int) FROM payments WHERE paid_on IS NOT NULL", lambda: (lambda p: (p.paid_on <= p.due_on).mean())(pay[pay.paid_on.notna()]), percent=(0,), note="of those paid", also=(lambda: (pay.paid_on <= pay.due_on).mean(),)),
    Asked("income from payments per month in 2025", 2, "time sum", "SELECT date_trunc('month', paid_on)::date, sum(amount) FROM payments WHERE year(paid_on) = 2025 GROUP BY 1", lambda: pay[pay.paid_on.dt.year == 2025].groupby(pay.paid_on.dt.to_period("M")).amount.sum()),
    Asked("yard jobs by type of work", 1, "group count", "SELECT work, count(*) FROM yard_jobs GROUP BY 1", lambda: job.groupby("work").size()),
    Asked("which kind of work costs the most on average", 3, "derive top mean", "SELECT work, avg(labour_cost + parts_cost) c FROM yard_jobs GROUP BY 1 ORDER BY c DESC LIMIT 1", lambda: top(job_total.groupby(job.work).mean())),
    Asked("total cost of all hull repairs", 3, "derive sum", "SELECT sum(labour_cost + parts_cost) FROM yard_jobs WHERE work = 'hull repair'", lambda: job_total[job.work == "hull repair"].sum()),
    Asked("labour cost per hour by foreman", 3, "ratio group", "SELECT foreman, sum(labour_cost) / sum(labour_hours) FROM yard_jobs GROUP BY 1", lambda: (lambda g: g.labour_cost.sum() / g.labour_hours.sum())(job.groupby("foreman"))),
    Asked("unfinished jobs", 2, "state list", "SELECT job_id FROM yard_jobs WHERE finished IS NULL", lambda: job[job.finished.isna()][["job_id"]]),
    Asked("how many days does a rigging job take on average?", 3, "duration mean", "SELECT avg(date_diff('day', booked_in, finished)) FROM yard_jobs WHERE work = 'rigging'", lambda: (job[job.work == "rigging"].finished - job[job.work == "rigging"].booked_in).dt.days.mean()),
    Asked("and an engine service?", 3, "follow-up value", "SELECT avg(date_diff('day', booked_in, finished)) FROM yard_jobs WHERE work = 'engine service'", lambda: (job[job.work == "engine service"].finished - job[job.work == "engine service"].booked_in).dt.days.mean(), after=1),
    Asked("boats that have never been in the yard", 3, "anti-join list", "SELECT boat_name FROM boats WHERE boat_id NOT IN (SELECT boat_id FROM yard_jobs)", lambda: boa[~boa.boat_id.isin(job.boat_id)][["boat_name"]]),
    Asked("top 10 boats by yard spending", 3, "join derive top", "SELECT boat_name, sum(labour_cost + parts_cost) s FROM yard_jobs JOIN boats USING (boat_id) GROUP BY boat_id, boat_name ORDER BY s DESC LIMIT 10", lambda: top(jobs.assign(s=jobs.labour_cost + jobs.parts_cost).groupby("boat_name").s.sum(), 10), ordered=True),
    Asked("which boats are not insured any more", 4, "state list", "SELECT boat_name FROM boats WHERE insured_until < DATE '2026-09-15'", lambda: boa[boa.insured_until < NOW][["boat_name"]]),
    Asked("boats whose insurance runs out in the next 30 days", 4, "time ahead list", "SELECT boat_name FROM boats WHERE insured_until BETWEEN DATE '2026-09-15' AND DATE '2026-10-15'", lambda: boa[(boa.insured_until >= NOW) & (boa.insured_until <= NOW + pd.Timedelta(days=30))][["boat_name"]]),
    Asked("boats with no insurance date on file", 2, "missing list", "SELECT boat_name FROM boats WHERE insured_until IS NULL", lambda: boa[boa.insured_until.isna()][["boat_name"]]),
    Asked("contracts where the boat is longer than the berth allows", 4, "compare columns join", f"SELECT contract_no FROM {FULL} WHERE length_m > max_length_m", lambda: full[full.length_m > full.max_length_m][["contract_no"]]),
    Asked("average fee per metre of berth by pontoon", 4, "ratio group", "SELECT pontoon, sum(yearly_fee) * 1.0 / sum(max_length_m) FROM berths GROUP BY 1", lambda: (lambda g: g.yearly_fee.sum() / g.max_length_m.sum())(ber.groupby("pontoon")), note="the mean of the berths' ratios is near", also=(lambda: (ber.yearly_fee / ber.max_length_m).groupby(ber.pontoon).mean(),)),
    Asked("berths with 32A and water under 2500 a year", 2, "filter list", "SELECT berth_id FROM berths WHERE power = '32A' AND water = 'Y' AND yearly_fee < 2500", lambda: ber[(ber.power == "32A") & (ber.water == "Y") & (ber.yearly_fee < 2500)][["berth_id"]]),
    Asked("do club members pay their bills faster?", 4, "compare groups duration join", "SELECT club_member, avg(date_diff('day', due_on, paid_on)) FROM payments JOIN contracts USING (contract_no) JOIN boats USING (boat_id) JOIN owners USING (owner_id) GROUP BY 1", lambda: paid.assign(d=(paid.paid_on - paid.due_on).dt.days).groupby("club_member").d.mean(), side=True),
    Asked("revenue per pontoon, biggest first", 3, "join sum sort", "SELECT pontoon, sum(amount) s FROM payments JOIN contracts USING (contract_no) JOIN berths USING (berth_id) GROUP BY 1 ORDER BY s DESC", lambda: paid.groupby("pontoon").amount.sum().sort_values(ascending=False), ordered=True, note="payments, or the agreed fees", also=(lambda: full.groupby("pontoon").agreed_fee.sum().sort_values(ascending=False),)),
    Asked("new owners per year", 2, "time group", "SELECT year(member_since), count(*) FROM owners GROUP BY 1", lambda: own.groupby(own.member_since.dt.year).size()),
    Asked("members for more than ten years, how many?", 3, "age count", "SELECT count(*) FROM owners WHERE member_since < DATE '2016-09-15'", lambda: int((own.member_since < pd.Timestamp("2016-09-15")).sum())),
    Asked("owner of the Silver Otter" if "Silver Otter" in set(boa.boat_name) else f"owner of the {boa.boat_name[0]}", 3, "join lookup", f"SELECT owner FROM boats JOIN owners USING (owner_id) WHERE boat_name = '{'Silver Otter' if 'Silver Otter' in set(boa.boat_name) else boa.boat_name[0]}'", lambda: boa.merge(own)[lambda f: f.boat_name == ("Silver Otter" if "Silver Otter" in set(boa.boat_name) else boa.boat_name[0])][["owner"]]),
    Asked("cheapest berth on each pontoon", 3, "top within", "SELECT pontoon, min(yearly_fee) FROM berths GROUP BY 1", lambda: ber.groupby("pontoon").yearly_fee.min(), also=(lambda: ber.sort_values(["yearly_fee", "berth_id"]).drop_duplicates("pontoon")[["pontoon", "berth_id"]],)),
    Asked("sailing yachts vs motor cruisers: number of yard jobs per boat", 4, "ratio compare join", "SELECT kind, count(DISTINCT job_id) * 1.0 / count(DISTINCT boats.boat_id) FROM boats LEFT JOIN yard_jobs USING (boat_id) WHERE kind IN ('sailing yacht', 'motor cruiser') GROUP BY 1", lambda: (lambda k: jobs[jobs.kind.isin(k)].groupby("kind").size() / boa[boa.kind.isin(k)].groupby("kind").size())(["sailing yacht", "motor cruiser"]), side=True),
    Asked("jobs per foreman and year", 2, "group two time", "SELECT foreman, year(booked_in), count(*) FROM yard_jobs GROUP BY 1, 2", lambda: job.groupby(["foreman", job.booked_in.dt.year.rename("year")]).size()),
    Asked("what share of the yard's costs is parts", 4, "share ratio", "SELECT sum(parts_cost) / sum(parts_cost + labour_cost) FROM yard_jobs", lambda: job.parts_cost.sum() / job_total.sum(), percent=(0,)),
    Asked("did we do more jobs this year than by the same day last year?", 4, "compare periods to date", "SELECT year(booked_in) y, count(*) FROM yard_jobs WHERE booked_in BETWEEN DATE '2026-01-01' AND DATE '2026-09-15' OR booked_in BETWEEN DATE '2025-01-01' AND DATE '2025-09-15' GROUP BY 1", lambda: (lambda j: j.groupby(j.booked_in.dt.year).size())(job[job.booked_in.dt.year.isin([2025, 2026]) & (job.booked_in.dt.strftime("%m-%d") <= "09-15")]), side=True),
    Asked("berths that are free today", 4, "state now anti-join", f"SELECT berth_id FROM berths WHERE berth_id NOT IN (SELECT berth_id FROM contracts WHERE {LIVE})", lambda: ber[~ber.berth_id.isin(live.berth_id)][["berth_id"]]),
    Asked("owners who had hull repairs done but no antifouling", 4, "has and has not", "SELECT DISTINCT owner_id FROM yard_jobs JOIN boats USING (boat_id) WHERE work = 'hull repair' AND owner_id NOT IN (SELECT owner_id FROM yard_jobs JOIN boats USING (boat_id) WHERE work = 'antifouling')", lambda: pd.DataFrame({"owner_id": sorted(set(jobs[jobs.work == "hull repair"].owner_id) - set(jobs[jobs.work == "antifouling"].owner_id))})),
    Asked("how many litres of diesel did we sell", 1, "trap", outcome=("asks", "declined"), note="nothing about fuel"),
    Asked("avrage parts cost for electrics", 2, "typo filter mean", "SELECT avg(parts_cost) FROM yard_jobs WHERE work = 'electrics'", lambda: job[job.work == "electrics"].parts_cost.mean()),
]  # fmt: skip

PACK = Pack("A marina", "Berths, boats, owners, contracts, payments and yard jobs.", TODAY, TABLES, QUESTIONS)
