"""Public figures of districts: people by year in columns, indicators in long form, schools, air; a reporter's words."""

from __future__ import annotations

import datetime as dt

import numpy as np
import pandas as pd

from tests.packs.making import Asked, Pack, top

TODAY = dt.date(2026, 5, 31)
rng = np.random.default_rng(23)
NAMES = ["Ashfold", "Barrowmere", "Carnhythe", "Dunwich Vale", "Eastmoor", "Farrow Hills", "Glenross", "Holmsea", "Ivelford", "Kestrel Bay", "Langdon", "Merrowdale", "Northgate", "Oxley", "Penmarsh", "Quarrington", "Ravensea", "Stourbeck"]  # fmt: skip
YEARS = [2019, 2020, 2021, 2022, 2023, 2024, 2025]


def _districts() -> pd.DataFrame:
    return pd.DataFrame(
        {
            "code": [f"D{n:02d}" for n in range(1, 19)],
            "district": NAMES,
            "region": rng.choice(["North", "Midlands", "South"], 18, p=[0.4, 0.3, 0.3]),
            "type": rng.choice(["urban", "rural", "mixed"], 18),
            "coastal": ["yes" if n in ("Holmsea", "Kestrel Bay", "Ravensea", "Carnhythe", "Penmarsh") else "no" for n in NAMES],
            "area_km2": np.round(rng.gamma(4, 90, 18), 1),
        }
    )  # fmt: skip


def _population(districts: pd.DataFrame) -> pd.DataFrame:
    base = rng.integers(40_000, 420_000, 18)
    growth = rng.normal(0.006, 0.012, 18)
    return pd.DataFrame(
        {
            "code": districts.code,
            "district": districts.district,
            **{str(y): (base * (1 + growth) ** (y - 2019)).round().astype(int) for y in YEARS},
        }
    )


def _indicators(districts: pd.DataFrame) -> pd.DataFrame:
    rows = []
    levels = {
        "Unemployment rate": (5.2, 1.4),
        "Median weekly rent": (212, 38),
        "Recycling rate": (44, 8),
        "Homes built": (430, 190),
    }
    units = {"Unemployment rate": "%", "Median weekly rent": "GBP", "Recycling rate": "%", "Homes built": "number"}
    for code, district in zip(districts.code, districts.district, strict=True):
        for name, (mean, spread) in levels.items():
            level = rng.normal(mean, spread)
            for year in YEARS[2:]:
                value = level * (1 + rng.normal(0.01, 0.05) * (year - 2020))
                if rng.random() < 0.97:
                    rounded = round(max(value, 1), 0 if name == "Homes built" else 1)
                    rows.append((code, district, year, name, rounded, units[name]))
    return pd.DataFrame(rows, columns=["code", "district", "year", "indicator", "value", "unit"])


def _schools(districts: pd.DataFrame) -> pd.DataFrame:
    place = rng.integers(0, 18, 240)
    phase = rng.choice(["primary", "secondary", "special"], 240, p=[0.68, 0.26, 0.06])
    size = np.select([phase == "primary", phase == "secondary"], [310, 980], 120)
    capacity = (size * rng.uniform(0.7, 1.3, 240)).round(-1).astype(int)
    saints = rng.choice(
        ["St Aidan's", "Hillside", "Park Lane", "The Oaks", "Riverbank", "Manor", "Kings", "Abbey"], 240
    )
    return pd.DataFrame(
        {
            "school_no": range(100001, 100241),
            "school": [f"{a} {districts.district[p]} {n % 7 + 1}" for n, (a, p) in enumerate(zip(saints, place, strict=True))],
            "district_code": districts.code.iloc[place].to_numpy(),
            "phase": phase,
            "pupils": (capacity * rng.uniform(0.6, 1.12, 240)).round().astype(int),
            "capacity": capacity,
            "free_meals_pct": np.round(rng.beta(2, 7, 240) * 100, 1),
            "rating": rng.choice(["Outstanding", "Good", "Requires improvement", "Inadequate"], 240, p=[0.2, 0.55, 0.2, 0.05]),
            "last_inspected": pd.Timestamp("2018-01-01") + pd.to_timedelta(rng.integers(0, 3000, 240), unit="D"),
        }
    )  # fmt: skip


def _air(districts: pd.DataFrame) -> pd.DataFrame:
    months = pd.date_range("2023-01-01", "2026-04-01", freq="MS")
    rows = []
    for n in range(26):
        code, level = districts.code[n % 18], rng.normal(27, 8)
        for month in months:
            if rng.random() < 0.95:
                winter = 4 * np.cos(2 * np.pi * (month.month - 1) / 12)
                rows.append(
                    (
                        f"AQ{n + 1:02d}",
                        code,
                        month,
                        round(max(3, level + winter + rng.normal(0, 3)), 1),
                        round(rng.normal(18, 4), 1),
                    )
                )
    return pd.DataFrame(rows, columns=["station", "district_code", "month", "no2", "pm10"])  # fmt: skip


dis = _districts()
pop = _population(dis)
ind = _indicators(dis)
sch = _schools(dis)
air = _air(dis)
TABLES = {"districts": dis, "population": pop, "indicators": ind, "schools": sch, "air_quality": air}
schd = sch.merge(dis, left_on="district_code", right_on="code")
SCHD = "schools JOIN districts ON district_code = code"
aird = air.merge(dis, left_on="district_code", right_on="code")
AIRD = "air_quality JOIN districts ON district_code = code"
popd = pop.merge(dis.drop(columns="district"), on="code")
POPD = "population p JOIN districts d USING (code)"
indd = ind.merge(dis.drop(columns="district"), on="code")
people = pop[["code", "district", "2025"]].merge(dis.drop(columns="district"), on="code")


def _ind(name: str, year: int | None = None) -> pd.DataFrame:
    found = indd[indd.indicator == name]
    return found if year is None else found[found.year == year]


QUESTIONS = [
    Asked("How many districts are there?", 1, "count", "SELECT count(*) FROM districts", lambda: len(dis)),
    Asked("population of Oxley in 2023", 2, "lookup wide", "SELECT \"2023\" FROM population WHERE district = 'Oxley'", lambda: pop[pop.district == "Oxley"]["2023"].iloc[0]),
    Asked("total population by year", 2, "wide group", " UNION ALL ".join(f"SELECT {y}, sum(\"{y}\") FROM population" for y in YEARS), lambda: pd.DataFrame({"year": YEARS, "people": [pop[str(y)].sum() for y in YEARS]})),
    Asked("which district has the most people now", 3, "wide top", 'SELECT district FROM population ORDER BY "2025" DESC LIMIT 1', lambda: pop.nlargest(1, "2025")[["district"]]),
    Asked("five smallest districts by area", 2, "top", "SELECT district FROM districts ORDER BY area_km2 LIMIT 5", lambda: dis.nsmallest(5, "area_km2")[["district"]], ordered=True),
    Asked("districts on the coast", 2, "flag list", "SELECT district FROM districts WHERE coastal = 'yes'", lambda: dis[dis.coastal == "yes"][["district"]]),
    Asked("population density per district in 2025", 3, "ratio join wide", f'SELECT p.district, "2025" / area_km2 FROM {POPD}', lambda: pd.DataFrame({"d": people.district, "x": people["2025"] / people.area_km2})),
    Asked("population by region in 2025", 3, "join wide group", f'SELECT region, sum("2025") FROM {POPD} GROUP BY 1', lambda: people.groupby("region")["2025"].sum()),
    Asked("Which district grew fastest between 2019 and 2025, in percent?", 4, "change wide top", 'SELECT district, ("2025" - "2019") * 100.0 / "2019" g FROM population ORDER BY g DESC LIMIT 1', lambda: top(((pop["2025"] - pop["2019"]) * 100 / pop["2019"]).set_axis(pop.district)), percent=(1,)),
    Asked("districts that lost people between 2019 and 2025", 4, "change wide filter", 'SELECT district FROM population WHERE "2025" < "2019"', lambda: pop[pop["2025"] < pop["2019"]][["district"]]),
    Asked("unemployment rate in Holmsea over the years", 2, "long filter line", "SELECT year, value FROM indicators WHERE indicator = 'Unemployment rate' AND district = 'Holmsea'", lambda: ind[(ind.indicator == "Unemployment rate") & (ind.district == "Holmsea")][["year", "value"]]),
    Asked("districts with the highest unemployment in 2025, top 3", 3, "long top", "SELECT district, value FROM indicators WHERE indicator = 'Unemployment rate' AND year = 2025 ORDER BY value DESC LIMIT 3", lambda: _ind("Unemployment rate", 2025).nlargest(3, "value")[["district", "value"]], ordered=True),
    Asked("where is rent above 250 in 2024", 3, "long filter", "SELECT district FROM indicators WHERE indicator = 'Median weekly rent' AND year = 2024 AND value > 250", lambda: _ind("Median weekly rent", 2024)[lambda f: f.value > 250][["district"]]),
    Asked("how many homes were built in each region in 2025?", 3, "long join sum", "SELECT region, sum(value) FROM indicators JOIN districts USING (code) WHERE indicator = 'Homes built' AND year = 2025 GROUP BY 1", lambda: _ind("Homes built", 2025).groupby("region").value.sum()),
    Asked("average recycling rate of coastal and inland districts in 2025", 4, "long compare", "SELECT coastal, avg(value) FROM indicators JOIN districts USING (code) WHERE indicator = 'Recycling rate' AND year = 2025 GROUP BY 1", lambda: _ind("Recycling rate", 2025).groupby("coastal").value.mean(), side=True),
    Asked("homes built per 1,000 people in 2025 by district", 4, "ratio two tables", "SELECT i.district, value * 1000.0 / \"2025\" FROM indicators i JOIN population p USING (code) WHERE indicator = 'Homes built' AND year = 2025", lambda: (lambda m: pd.DataFrame({"d": m.district, "x": m.value * 1000 / m["2025"]}))(_ind("Homes built", 2025).merge(pop[["code", "2025"]], on="code"))),
    Asked("did the recycling rate improve in Langdon from 2021 to 2025", 3, "long change", "SELECT year, value FROM indicators WHERE indicator = 'Recycling rate' AND district = 'Langdon' AND year IN (2021, 2025)", lambda: ind[(ind.indicator == "Recycling rate") & (ind.district == "Langdon") & ind.year.isin([2021, 2025])][["year", "value"]], note="or the two beside each other with the difference", side=True),
    Asked("number of schools by phase", 1, "group", "SELECT phase, count(*) FROM schools GROUP BY 1", lambda: sch.groupby("phase").size()),
    Asked("schools rated inadequate", 2, "filter list", "SELECT school FROM schools WHERE rating = 'Inadequate'", lambda: sch[sch.rating == "Inadequate"][["school"]]),
    Asked("how many pupils are in secondary schools in the north", 3, "join filter sum", f"SELECT sum(pupils) FROM {SCHD} WHERE phase = 'secondary' AND region = 'North'", lambda: schd[(schd.phase == "secondary") & (schd.region == "North")].pupils.sum()),
    Asked("schools with more pupils than places", 4, "compare columns list", "SELECT school FROM schools WHERE pupils > capacity", lambda: sch[sch.pupils > sch.capacity][["school"]]),
    Asked("how full are the primary schools in each district", 4, "ratio group", f"SELECT district, sum(pupils) * 1.0 / sum(capacity) FROM {SCHD} WHERE phase = 'primary' GROUP BY 1", lambda: (lambda g: g.pupils.sum() / g.capacity.sum())(schd[schd.phase == "primary"].groupby("district")), percent=(1,)),
    Asked("share of schools rated good or outstanding", 3, "share set", "SELECT avg((rating IN ('Good', 'Outstanding'))::int) FROM schools", lambda: sch.rating.isin(["Good", "Outstanding"]).mean(), percent=(0,)),
    Asked("same for each region", 3, "follow-up group", f"SELECT region, avg((rating IN ('Good', 'Outstanding'))::int) FROM {SCHD} GROUP BY 1", lambda: schd.assign(g=schd.rating.isin(["Good", "Outstanding"])).groupby("region").g.mean(), after=1, percent=(1,)),
    Asked("average free meals percentage by rating", 2, "group mean", "SELECT rating, avg(free_meals_pct) FROM schools GROUP BY 1", lambda: sch.groupby("rating").free_meals_pct.mean()),
    Asked("schools not inspected for more than five years", 4, "time since list", "SELECT school FROM schools WHERE last_inspected < DATE '2021-05-31'", lambda: sch[sch.last_inspected < pd.Timestamp("2021-05-31")][["school"]]),
    Asked("biggest school in every district", 3, "top within", f"SELECT district, school FROM (SELECT *, row_number() OVER (PARTITION BY district_code ORDER BY pupils DESC) n FROM {SCHD}) WHERE n = 1", lambda: schd.sort_values("pupils", ascending=False).drop_duplicates("district_code")[["district", "school"]]),
    Asked("inspections per year", 2, "time group", "SELECT year(last_inspected), count(*) FROM schools GROUP BY 1", lambda: sch.groupby(sch.last_inspected.dt.year).size()),
    Asked("districts without a special school", 3, "anti-join list", "SELECT district FROM districts WHERE code NOT IN (SELECT district_code FROM schools WHERE phase = 'special')", lambda: dis[~dis.code.isin(sch[sch.phase == "special"].district_code)][["district"]]),
    Asked("pupils per 100 residents by district, 2025 figures", 4, "ratio two tables", 'SELECT p.district, s.n * 100.0 / "2025" FROM population p JOIN (SELECT district_code, sum(pupils) n FROM schools GROUP BY 1) s ON s.district_code = p.code', lambda: (lambda s: pd.DataFrame({"d": s.district, "x": s.n * 100 / s["2025"]}))(pop.merge(sch.groupby("district_code").pupils.sum().rename("n"), left_on="code", right_index=True))),
    Asked("average NO2 by station", 1, "group mean", "SELECT station, avg(no2) FROM air_quality GROUP BY 1", lambda: air.groupby("station").no2.mean()),
    Asked("stations where no2 was ever over 40", 3, "filter distinct", "SELECT DISTINCT station FROM air_quality WHERE no2 > 40", lambda: pd.DataFrame({"s": sorted(set(air[air.no2 > 40].station))})),
    Asked("monthly average pm10 in 2025", 2, "time mean", "SELECT month::date, avg(pm10) FROM air_quality WHERE year(month) = 2025 GROUP BY 1", lambda: air[air.month.dt.year == 2025].groupby("month").pm10.mean()),
    Asked("is the air cleaner in rural districts? no2 please", 4, "compare groups", f"SELECT type, avg(no2) FROM {AIRD} GROUP BY 1", lambda: aird.groupby("type").no2.mean(), note="rural against the rest is as good", also=(lambda: aird.groupby(aird.type == "rural").no2.mean(),)),
    Asked("which station improved most in no2 from 2023 to 2025", 4, "change top", "SELECT station, avg(no2) FILTER (year(month) = 2025) - avg(no2) FILTER (year(month) = 2023) c FROM air_quality GROUP BY 1 ORDER BY c LIMIT 1", lambda: top(air[air.month.dt.year == 2025].groupby("station").no2.mean() - air[air.month.dt.year == 2023].groupby("station").no2.mean(), rising=True)),
    Asked("worst month for no2 at AQ05", 3, "top filter", "SELECT month::date FROM air_quality WHERE station = 'AQ05' ORDER BY no2 DESC LIMIT 1", lambda: air[air.station == "AQ05"].nlargest(1, "no2")[["month"]]),
    Asked("number of readings per district, including those with none", 4, "outer count", "SELECT district, count(station) FROM districts LEFT JOIN air_quality ON district_code = code GROUP BY 1", lambda: dis.set_index("district").code.map(air.groupby("district_code").size()).fillna(0)),
    Asked("urban districts ranked by median rent in 2025", 3, "long filter sort", "SELECT district, value FROM indicators JOIN districts USING (code, district) WHERE indicator = 'Median weekly rent' AND year = 2025 AND type = 'urban' ORDER BY value DESC", lambda: _ind("Median weekly rent", 2025)[lambda f: f.type == "urban"].sort_values("value", ascending=False)[["district", "value"]], ordered=True),
    Asked("percentage change in rent by district, 2021 to 2025", 4, "long change", "SELECT a.district, (b.value - a.value) * 100 / a.value FROM indicators a JOIN indicators b USING (code, indicator) WHERE indicator = 'Median weekly rent' AND a.year = 2021 AND b.year = 2025", lambda: (lambda w: ((w[2025] - w[2021]) * 100 / w[2021]).dropna())(_ind("Median weekly rent").pivot(index="district", columns="year", values="value")), percent=(1,), note="districts without both years may be there, empty"),
    Asked("each region's share of the population in 2025", 3, "share join wide", f'SELECT region, sum("2025") * 100.0 / sum(sum("2025")) OVER () FROM {POPD} GROUP BY 1', lambda: people.groupby("region")["2025"].sum() * 100 / people["2025"].sum(), percent=(1,)),
    Asked("how many districts have fewer than 100,000 inhabitants in 2025", 3, "wide filter count", 'SELECT count(*) FROM population WHERE "2025" < 100000', lambda: int((pop["2025"] < 100000).sum())),
    Asked("total area of the rural districts in sq km", 2, "filter sum", "SELECT sum(area_km2) FROM districts WHERE type = 'rural'", lambda: dis[dis.type == "rural"].area_km2.sum()),
    Asked("median capacity of primary schools", 2, "filter median", "SELECT median(capacity) FROM schools WHERE phase = 'primary'", lambda: sch[sch.phase == "primary"].capacity.median()),
    Asked("spare places in secondary schools by region", 4, "derive sum join", f"SELECT region, sum(capacity - pupils) FROM {SCHD} WHERE phase = 'secondary' GROUP BY 1", lambda: (lambda s: (s.capacity - s.pupils).groupby(s.region).sum())(schd[schd.phase == "secondary"])),
    Asked("which districts missed a recycling rate of 40 in 2025", 4, "long filter below", "SELECT district FROM indicators WHERE indicator = 'Recycling rate' AND year = 2025 AND value < 40", lambda: _ind("Recycling rate", 2025)[lambda f: f.value < 40][["district"]]),
    Asked("do places with high unemployment have lower rents? correlation for 2025", 4, "correlation long", "SELECT corr(a.value, b.value) FROM indicators a JOIN indicators b USING (code, year) WHERE a.indicator = 'Unemployment rate' AND b.indicator = 'Median weekly rent' AND year = 2025", lambda: (lambda w: w["Unemployment rate"].corr(w["Median weekly rent"]))(ind[ind.year == 2025].pivot(index="code", columns="indicator", values="value"))),
    Asked("crime per district", 1, "trap", outcome=("asks", "declined"), note="no figures of crime"),
    Asked("secondry schools in Glenross", 2, "typo join list", f"SELECT school FROM {SCHD} WHERE phase = 'secondary' AND district = 'Glenross'", lambda: schd[(schd.phase == "secondary") & (schd.district == "Glenross")][["school"]]),
    Asked("avg number of pupils in good schools vs outstanding ones", 3, "compare values", "SELECT rating, avg(pupils) FROM schools WHERE rating IN ('Good', 'Outstanding') GROUP BY 1", lambda: sch[sch.rating.isin(["Good", "Outstanding"])].groupby("rating").pupils.mean(), side=True),
    Asked("districts with more than 15 schools", 3, "having", f"SELECT district FROM {SCHD} GROUP BY 1 HAVING count(*) > 15", lambda: (lambda s: s[s > 15].reset_index()[["district"]])(schd.groupby("district").size())),
]  # fmt: skip

PACK = Pack("Districts in figures", "Public figures of made-up districts.", TODAY, TABLES, QUESTIONS)
