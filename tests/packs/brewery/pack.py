"""A small brewery: beers, pubs it delivers to, order lines, brews and returned kegs, in the words of those who run it."""

from __future__ import annotations

import datetime as dt

import numpy as np
import pandas as pd

from tests.packs.making import Asked, Pack, days, top

TODAY = dt.date(2026, 3, 10)
NOW = pd.Timestamp(TODAY)
rng = np.random.default_rng(99)


def _beers() -> pd.DataFrame:
    return pd.DataFrame(
        {
            "BeerCode": ["PAL", "STT", "WHE", "IPA", "LAG", "POR", "SAI", "BAR", "RED", "NON"],
            "BeerName": ["Millrace Pale", "Coal Face Stout", "Haymaker Wheat", "Signal IPA", "Cold Quay Lager", "Old Lamp Porter", "Barn Door Saison", "Long Night Barley Wine", "Copper Red", "Clear Head"],
            "Style": ["pale ale", "stout", "wheat", "ipa", "lager", "porter", "saison", "barley wine", "amber", "alcohol free"],
            "AbvPct": [4.2, 5.1, 4.8, 6.4, 4.5, 5.6, 6.8, 9.5, 4.9, 0.4],
            "PricePerKeg": [88.0, 104.0, 92.0, 118.0, 84.0, 108.0, 122.0, 165.0, 95.0, 79.0],
            "CostPerKeg": [39.5, 46.0, 41.0, 58.5, 36.0, 49.0, 55.0, 88.0, 42.5, 40.0],
            "LaunchedOn": pd.to_datetime(["2019-03-01", "2019-10-01", "2020-05-01", "2019-03-01", "2021-04-15", "2022-10-01", "2023-06-01", "2020-11-01", "2024-09-01", "2025-05-20"]),
        }
    )  # fmt: skip


def _pubs() -> pd.DataFrame:
    a = ["Crown", "Anchor", "Plough", "Fox", "Bell", "Swan", "Lamb", "Ship", "Star", "Oak", "Heron"]
    towns = ["Wexcombe", "Tillbridge", "Harmouth", "Upper Dene", "Stanwick"]
    names = [f"The {x} {t}" for x in a for t in towns][:48]
    return pd.DataFrame(
        {
            "PubId": range(1, 49),
            "PubName": names,
            "Town": [n.split(" ", 2)[2] for n in names],
            "PubType": rng.choice(["free house", "tied", "restaurant", "club"], 48, p=[0.5, 0.2, 0.2, 0.1]),
            "Seats": rng.integers(20, 160, 48),
            "CustomerSince": days(rng, "2019-03-01", "2025-12-01", 48),
            "Rep": rng.choice(["Nadia", "Owen", "Piet"], 48),
        }
    )


def _orders(pubs: pd.DataFrame) -> pd.DataFrame:
    taste = rng.dirichlet(np.ones(44) * 1.2)
    placed = days(rng, "2024-01-02", "2026-03-08", 900).sort_values().reset_index(drop=True)
    promised = placed + pd.to_timedelta(rng.integers(2, 8, 900), unit="D")
    delivered = promised + pd.to_timedelta(rng.choice([-1, 0, 0, 0, 1, 2, 5], 900), unit="D")
    return pd.DataFrame(
        {
            "OrderNo": [f"B{n}" for n in range(2001, 2901)],
            "PubId": rng.choice(pubs.PubId.iloc[:44], 900, p=taste),
            "OrderedOn": placed,
            "PromisedFor": promised,
            "DeliveredOn": delivered.where(delivered <= NOW),
            "Driver": rng.choice(["Bo", "Kaz", "Lou", "Sim"], 900),
            "DiscountPct": rng.choice([0, 0, 0, 5, 10], 900),
        }
    )


def _lines(orders: pd.DataFrame, beers: pd.DataFrame) -> pd.DataFrame:
    rows = np.sort(rng.integers(0, 900, 2300))
    beer = rng.choice(9, 2300, p=[0.2, 0.12, 0.1, 0.18, 0.2, 0.06, 0.05, 0.02, 0.07])
    kegs = rng.integers(1, 9, 2300)
    return pd.DataFrame(
        {
            "OrderNo": orders.OrderNo.iloc[rows].to_numpy(),
            "BeerCode": beers.BeerCode.iloc[beer].to_numpy(),
            "Kegs": kegs,
            "LineTotal": np.round(kegs * beers.PricePerKeg.iloc[beer].to_numpy() * (1 - orders.DiscountPct.iloc[rows].to_numpy() / 100), 2),
        }
    )  # fmt: skip


def _brews(beers: pd.DataFrame) -> pd.DataFrame:
    which = rng.choice(9, 210)
    planned = rng.choice([800, 1200, 1600], 210)
    return pd.DataFrame(
        {
            "BrewNo": range(1, 211),
            "BeerCode": beers.BeerCode.iloc[which].to_numpy(),
            "BrewedOn": days(rng, "2024-01-01", "2026-03-05", 210),
            "LitresPlanned": planned,
            "LitresMade": (planned * rng.uniform(0.86, 1.02, 210)).round().astype(int),
            "Brewer": rng.choice(["Tess", "Vik"], 210),
            "Spoiled": rng.random(210) < 0.05,
        }
    )


bee = _beers()
pub = _pubs()
orders = _orders(pub)
lin = _lines(orders, bee)
bre = _brews(bee)
TABLES = {"Beers": bee, "Pubs": pub, "Orders": orders, "OrderLines": lin, "Brews": bre}
full = lin.merge(orders, on="OrderNo").merge(pub, on="PubId").merge(bee, on="BeerCode")
FULL = "OrderLines JOIN Orders USING (OrderNo) JOIN Pubs USING (PubId) JOIN Beers USING (BeerCode)"
op = orders.merge(pub, on="PubId")
year = full.OrderedOn.dt.year
full["profit"] = full.LineTotal - full.Kegs * full.CostPerKeg
late = orders[orders.DeliveredOn > orders.PromisedFor]


QUESTIONS = [
    Asked("total sales", 1, "sum", "SELECT sum(LineTotal) FROM OrderLines", lambda: lin.LineTotal.sum()),
    Asked("sales by beer", 2, "join group", f"SELECT BeerName, sum(LineTotal) FROM {FULL} GROUP BY 1", lambda: full.groupby("BeerName").LineTotal.sum()),
    Asked("how many kegs did we sell in 2025", 2, "time sum", f"SELECT sum(Kegs) FROM {FULL} WHERE year(OrderedOn) = 2025", lambda: full[year == 2025].Kegs.sum()),
    Asked("number of pubs in each town", 1, "group count", "SELECT Town, count(*) FROM Pubs GROUP BY 1", lambda: pub.groupby("Town").size()),
    Asked("strongest beer", 2, "adjective top", "SELECT BeerName FROM Beers ORDER BY AbvPct DESC LIMIT 1", lambda: bee.nlargest(1, "AbvPct")[["BeerName"]]),
    Asked("beers stronger than 5%", 2, "adjective filter", "SELECT BeerName FROM Beers WHERE AbvPct > 5", lambda: bee[bee.AbvPct > 5][["BeerName"]]),
    Asked("best selling beer in Harmouth", 3, "join filter top", f"SELECT BeerName, sum(Kegs) k FROM {FULL} WHERE Town = 'Harmouth' GROUP BY 1 ORDER BY k DESC LIMIT 1", lambda: top(full[full.Town == "Harmouth"].groupby("BeerName").Kegs.sum()), optional=(1,), note="by kegs or by money, if the same", also=(lambda: top(full[full.Town == "Harmouth"].groupby("BeerName").LineTotal.sum()),)),
    Asked("pubs that haven't ordered anything yet", 3, "anti-join", "SELECT PubName FROM Pubs WHERE PubId NOT IN (SELECT PubId FROM Orders)", lambda: pub[~pub.PubId.isin(orders.PubId)][["PubName"]]),
    Asked("pubs that have not ordered since the start of the year", 4, "anti-join time", "SELECT PubName FROM Pubs WHERE PubId NOT IN (SELECT PubId FROM Orders WHERE OrderedOn >= DATE '2026-01-01')", lambda: pub[~pub.PubId.isin(orders[orders.OrderedOn >= "2026-01-01"].PubId)][["PubName"]]),
    Asked("average order value", 3, "two step mean", "SELECT sum(LineTotal) / count(DISTINCT OrderNo) FROM OrderLines", lambda: lin.groupby("OrderNo").LineTotal.sum().mean()),
    Asked("average order value per rep", 4, "two step join group", f"SELECT Rep, sum(LineTotal) / count(DISTINCT OrderNo) FROM {FULL} GROUP BY 1", lambda: full.groupby(["Rep", "OrderNo"]).LineTotal.sum().groupby("Rep").mean()),
    Asked("which rep sells most?", 3, "join top", f"SELECT Rep, sum(LineTotal) s FROM {FULL} GROUP BY 1 ORDER BY s DESC LIMIT 1", lambda: top(full.groupby("Rep").LineTotal.sum()), optional=(1,), also=(lambda: top(full.groupby("Rep").Kegs.sum()),)),
    Asked("profit by beer last year", 4, "derived join group", f"SELECT BeerName, sum(LineTotal - Kegs * CostPerKeg) FROM {FULL} WHERE year(OrderedOn) = 2025 GROUP BY 1", lambda: full[year == 2025].groupby("BeerName").profit.sum()),
    Asked("profit margin per keg for each beer, from the price list", 3, "derive list", "SELECT BeerName, PricePerKeg - CostPerKeg FROM Beers", lambda: pd.DataFrame({"b": bee.BeerName, "m": bee.PricePerKeg - bee.CostPerKeg})),
    Asked("late deliveries per driver", 3, "state group", "SELECT Driver, count(*) FROM Orders WHERE DeliveredOn > PromisedFor GROUP BY 1", lambda: late.groupby("Driver").size()),
    Asked("what percentage of orders arrives late", 3, "share state", "SELECT avg((DeliveredOn > PromisedFor)::int) FROM Orders WHERE DeliveredOn IS NOT NULL", lambda: (lambda o: (o.DeliveredOn > o.PromisedFor).mean())(orders[orders.DeliveredOn.notna()]), percent=(0,), note="of those delivered", also=(lambda: (orders.DeliveredOn > orders.PromisedFor).mean(),)),
    Asked("orders not delivered yet", 2, "state list", "SELECT OrderNo FROM Orders WHERE DeliveredOn IS NULL", lambda: orders[orders.DeliveredOn.isna()][["OrderNo"]]),
    Asked("how many of those should already have been here", 4, "follow-up overdue", "SELECT count(*) FROM Orders WHERE DeliveredOn IS NULL AND PromisedFor < DATE '2026-03-10'", lambda: int((orders.DeliveredOn.isna() & (orders.PromisedFor < NOW)).sum()), after=1),
    Asked("average delivery time in days by town", 3, "duration join group", "SELECT Town, avg(date_diff('day', OrderedOn, DeliveredOn)) FROM Orders JOIN Pubs USING (PubId) GROUP BY 1", lambda: op.assign(d=(op.DeliveredOn - op.OrderedOn).dt.days).groupby("Town").d.mean()),
    Asked("monthly sales of IPA in 2025", 3, "join time group", f"SELECT date_trunc('month', OrderedOn)::date, sum(LineTotal) FROM {FULL} WHERE Style = 'ipa' AND year(OrderedOn) = 2025 GROUP BY 1", lambda: (lambda f: f.groupby(f.OrderedOn.dt.to_period("M")).LineTotal.sum())(full[(full.Style == "ipa") & (year == 2025)])),
    Asked("now the stout", 3, "follow-up value", f"SELECT date_trunc('month', OrderedOn)::date, sum(LineTotal) FROM {FULL} WHERE Style = 'stout' AND year(OrderedOn) = 2025 GROUP BY 1", lambda: (lambda f: f.groupby(f.OrderedOn.dt.to_period("M")).LineTotal.sum())(full[(full.Style == "stout") & (year == 2025)]), after=1),
    Asked("sales growth 2024 to 2025 by style, in %", 4, "change join group", f"SELECT Style, (sum(LineTotal) FILTER (year(OrderedOn) = 2025) / sum(LineTotal) FILTER (year(OrderedOn) = 2024) - 1) * 100 FROM {FULL} GROUP BY 1", lambda: (full[year == 2025].groupby("Style").LineTotal.sum() / full[year == 2024].groupby("Style").LineTotal.sum() - 1) * 100, percent=(1,)),
    Asked("kegs per order on average", 3, "two step mean", "SELECT sum(Kegs) * 1.0 / count(DISTINCT OrderNo) FROM OrderLines", lambda: lin.groupby("OrderNo").Kegs.sum().mean(), also=(lambda: lin.Kegs.sum() / len(orders),)),
    Asked("orders of more than 20 kegs", 3, "having list", "SELECT OrderNo FROM OrderLines GROUP BY 1 HAVING sum(Kegs) > 20", lambda: (lambda s: s[s > 20].reset_index()[["OrderNo"]])(lin.groupby("OrderNo").Kegs.sum())),
    Asked("which pubs buy both the pale and the stout", 4, "has both", f"SELECT PubName FROM {FULL} WHERE BeerCode IN ('PAL', 'STT') GROUP BY 1 HAVING count(DISTINCT BeerCode) = 2", lambda: pd.DataFrame({"p": sorted(set(full[full.BeerCode == "PAL"].PubName) & set(full[full.BeerCode == "STT"].PubName))}), optional=()),
    Asked("pubs in Stanwick which never bought lager", 4, "filter anti-join", f"SELECT PubName FROM Pubs WHERE Town = 'Stanwick' AND PubId NOT IN (SELECT PubId FROM {FULL} WHERE Style = 'lager')", lambda: pub[(pub.Town == "Stanwick") & ~pub.PubId.isin(full[full.Style == "lager"].PubId)][["PubName"]]),
    Asked("revenue per seat by pub type", 4, "ratio group", f"SELECT t.PubType, s / n FROM (SELECT PubType, sum(LineTotal) s FROM {FULL} GROUP BY 1) t JOIN (SELECT PubType, sum(Seats) n FROM Pubs GROUP BY 1) u USING (PubType)", lambda: full.groupby("PubType").LineTotal.sum() / pub.groupby("PubType").Seats.sum()),
    Asked("top three pubs for each rep by sales", 4, "top within join", f"SELECT Rep, PubName, s FROM (SELECT Rep, PubName, sum(LineTotal) s, row_number() OVER (PARTITION BY Rep ORDER BY sum(LineTotal) DESC) n FROM {FULL} GROUP BY 1, 2) WHERE n <= 3", lambda: (lambda g: g.sort_values("LineTotal", ascending=False).groupby("Rep").head(3))(full.groupby(["Rep", "PubName"]).LineTotal.sum().reset_index())),
    Asked("how many litres were brewed each month this year and last", 3, "time sum", "SELECT date_trunc('month', BrewedOn)::date, sum(LitresMade) FROM Brews WHERE year(BrewedOn) >= 2025 GROUP BY 1", lambda: (lambda b: b.groupby(b.BrewedOn.dt.to_period("M")).LitresMade.sum())(bre[bre.BrewedOn.dt.year >= 2025])),
    Asked("litres lost against plan by brewer", 4, "derive sum group", "SELECT Brewer, sum(LitresPlanned - LitresMade) FROM Brews GROUP BY 1", lambda: (bre.LitresPlanned - bre.LitresMade).groupby(bre.Brewer).sum()),
    Asked("how many brews went bad", 4, "flag synonym count", "SELECT count(*) FROM Brews WHERE Spoiled", lambda: int(bre.Spoiled.sum())),
    Asked("spoilage rate by beer style", 3, "share flag join", "SELECT Style, avg(Spoiled::int) FROM Brews JOIN Beers USING (BeerCode) GROUP BY 1", lambda: bre.merge(bee).groupby("Style").Spoiled.mean(), percent=(1,)),
    Asked("yield in percent per brewer (made over planned)", 4, "ratio group", "SELECT Brewer, sum(LitresMade) * 100.0 / sum(LitresPlanned) FROM Brews GROUP BY 1", lambda: (lambda g: g.LitresMade.sum() * 100 / g.LitresPlanned.sum())(bre.groupby("Brewer")), percent=(1,)),
    Asked("which beers have we never brewed", 3, "anti-join", "SELECT BeerName FROM Beers WHERE BeerCode NOT IN (SELECT BeerCode FROM Brews)", lambda: bee[~bee.BeerCode.isin(bre.BeerCode)][["BeerName"]]),
    Asked("beers launched in the last three years", 3, "relative time list", "SELECT BeerName FROM Beers WHERE LaunchedOn > DATE '2023-03-10'", lambda: bee[bee.LaunchedOn > pd.Timestamp("2023-03-10")][["BeerName"]]),
    Asked("discounted orders vs full price: average value", 4, "compare two step", "SELECT DiscountPct > 0, avg(v) FROM (SELECT OrderNo, any_value(DiscountPct) DiscountPct, sum(LineTotal) v FROM OrderLines JOIN Orders USING (OrderNo) GROUP BY 1) GROUP BY 1", lambda: (lambda g: g.groupby(g.index.get_level_values(1) > 0).mean().rename_axis("d"))(full.groupby(["OrderNo", "DiscountPct"]).LineTotal.sum()), side=True),
    Asked("running total of sales by month for 2025", 3, "running", f"SELECT m, sum(s) OVER (ORDER BY m) FROM (SELECT date_trunc('month', OrderedOn)::date m, sum(LineTotal) s FROM {FULL} WHERE year(OrderedOn) = 2025 GROUP BY 1)", lambda: (lambda f: f.groupby(f.OrderedOn.dt.to_period("M")).LineTotal.sum().cumsum())(full[year == 2025]), ordered=True),
    Asked("share of each beer in total kegs", 3, "share group", f"SELECT BeerName, sum(Kegs) * 100.0 / sum(sum(Kegs)) OVER () FROM {FULL} GROUP BY 1", lambda: full.groupby("BeerName").Kegs.sum() * 100 / full.Kegs.sum(), percent=(1,)),
    Asked("busiest weekday for orders", 2, "weekday top", "SELECT isodow(OrderedOn) d, count(*) n FROM Orders GROUP BY 1 ORDER BY n DESC LIMIT 1", lambda: top(orders.groupby(orders.OrderedOn.dt.weekday + 1).size())),
    Asked("customers who joined before 2021 and how much they bought in 2025", 4, "join filter group", f"SELECT PubName, sum(LineTotal) FROM {FULL} WHERE CustomerSince < DATE '2021-01-01' AND year(OrderedOn) = 2025 GROUP BY 1", lambda: full[(full.CustomerSince < "2021-01-01") & (year == 2025)].groupby("PubName").LineTotal.sum()),
    Asked("are clubs bigger than restaurants (seats)", 3, "compare values", "SELECT PubType, avg(Seats) FROM Pubs WHERE PubType IN ('club', 'restaurant') GROUP BY 1", lambda: pub[pub.PubType.isin(["club", "restaurant"])].groupby("PubType").Seats.mean(), side=True),
    Asked("orders per pub, highest first, only pubs over 25 orders", 3, "having sort", "SELECT PubName, count(*) n FROM Orders JOIN Pubs USING (PubId) GROUP BY PubId, PubName HAVING count(*) > 25 ORDER BY n DESC", lambda: (lambda s: s[s > 25].sort_values(ascending=False))(op.groupby("PubName").size()), note="ties in any order"),
    Asked("last order date of every pub", 2, "max date group", "SELECT PubName, max(OrderedOn)::date FROM Orders JOIN Pubs USING (PubId) GROUP BY PubId, PubName", lambda: op.groupby("PubName").OrderedOn.max()),
    Asked("days since the last order for The Fox Harmouth", 4, "duration since", "SELECT date_diff('day', max(OrderedOn), DATE '2026-03-10') FROM Orders JOIN Pubs USING (PubId) WHERE PubName = 'The Fox Harmouth'", lambda: (NOW - op[op.PubName == "The Fox Harmouth"].OrderedOn.max()).days),
    Asked("how much did Nadia's pubs spend on average", 4, "two step mean filter", f"SELECT avg(s) FROM (SELECT PubId, sum(LineTotal) s FROM {FULL} WHERE Rep = 'Nadia' GROUP BY 1)", lambda: full[full.Rep == "Nadia"].groupby("PubId").LineTotal.sum().mean(), note="per pub", also=(lambda: full[full.Rep == "Nadia"].groupby("OrderNo").LineTotal.sum().mean(),)),
    Asked("sales by style and year", 2, "group two", f"SELECT Style, year(OrderedOn), sum(LineTotal) FROM {FULL} GROUP BY 1, 2", lambda: full.groupby(["Style", year.rename("year")]).LineTotal.sum()),
    Asked("which beers sell less than average", 4, "compare overall", f"SELECT BeerName FROM {FULL} GROUP BY 1 HAVING sum(Kegs) < (SELECT avg(k) FROM (SELECT sum(Kegs) k FROM OrderLines GROUP BY BeerCode))", lambda: (lambda s: s[s < s.mean()].reset_index()[["BeerName"]])(full.groupby("BeerName").Kegs.sum()), note="by kegs; by money if the same", also=(lambda: (lambda s: s[s < s.mean()].reset_index()[["BeerName"]])(full.groupby("BeerName").LineTotal.sum()),)),
    Asked("salaries of the brewers", 1, "trap", outcome=("asks", "declined"), note="no wages here"),
    Asked("totl kegs for tied pubs", 2, "typo join sum", f"SELECT sum(Kegs) FROM {FULL} WHERE PubType = 'tied'", lambda: full[full.PubType == "tied"].Kegs.sum()),
    Asked("what did we sell the most of last week? kegs", 4, "relative time top", f"SELECT BeerName, sum(Kegs) k FROM {FULL} WHERE OrderedOn BETWEEN DATE '2026-03-02' AND DATE '2026-03-08' GROUP BY 1 ORDER BY k DESC, 1 LIMIT 1", lambda: top(full[(full.OrderedOn >= "2026-03-02") & (full.OrderedOn <= "2026-03-08")].groupby("BeerName").Kegs.sum().sort_index())),
]  # fmt: skip


def _german(frame: pd.DataFrame) -> str:
    dates = {c: frame[c].dt.strftime("%d.%m.%Y") for c in ("OrderedOn", "PromisedFor", "DeliveredOn")}
    return frame.assign(**dates).to_csv(index=False, sep=";")


PACK = Pack(
    "A brewery",
    "Beers, pubs, orders and brews of a made-up brewery.",
    TODAY,
    TABLES,
    QUESTIONS,
    {
        "Orders": _german,
        "Beers": lambda f: f.assign(PricePerKeg=f.PricePerKeg.map("£{:.2f}".format)).to_csv(index=False),
    },
)
