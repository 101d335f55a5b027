"""A county's libraries: branches, titles, copies, readers, loans and holds, in a librarian's words."""

from __future__ import annotations

import datetime as dt

import numpy as np
import pandas as pd

from tests.packs.making import Asked, Pack, days, top

TODAY = dt.date(2026, 2, 28)
NOW = pd.Timestamp(TODAY)
rng = np.random.default_rng(314)


def _branches() -> pd.DataFrame:
    return pd.DataFrame(
        {
            "branch_code": ["CEN", "HIL", "QUA", "MEA", "STA", "MOB"],
            "branch": ["Central", "Hillbrow", "Quayside", "Meadow Lane", "Station Road", "Mobile van"],
            "opened": [1931, 1974, 1988, 2003, 2016, 2019],
            "floor_area_sqm": [2400, 620, 540, 710, 330, 18],
            "staff": [31, 8, 7, 9, 5, 2],
            "open_sundays": [True, False, False, True, False, False],
        }
    )


def _titles() -> pd.DataFrame:
    adjectives = [
        "Quiet",
        "Last",
        "Burning",
        "Paper",
        "Winter",
        "Hidden",
        "Second",
        "Broken",
        "Salt",
        "Glass",
        "Long",
        "Small",
    ]
    nouns = [
        "Harbour",
        "Garden",
        "Letter",
        "Mountain",
        "House",
        "Orchard",
        "River",
        "Clock",
        "Field",
        "Bridge",
        "Island",
    ]
    names = rng.permutation([f"The {a} {n}" for a in adjectives for n in nouns])[:110]
    authors = rng.choice(
        [
            "A. Brandreth",
            "J. Colquhoun",
            "M. Dasgupta",
            "E. Fenwick",
            "R. Halloran",
            "S. Ibekwe",
            "K. Lindqvist",
            "P. Moretti",
        ],
        110,
    )
    return pd.DataFrame(
        {
            "title_id": range(1, 111),
            "title": names,
            "author": authors,
            "genre": rng.choice(["crime", "history", "children's", "science", "romance", "travel"], 110, p=[0.25, 0.15, 0.25, 0.1, 0.15, 0.1]),
            "published": rng.integers(1950, 2026, 110),
            "pages": rng.integers(48, 820, 110),
            "language": rng.choice(["English", "Welsh", "Polish"], 110, p=[0.86, 0.08, 0.06]),
        }
    )  # fmt: skip


def _copies(titles: pd.DataFrame, branches: pd.DataFrame) -> pd.DataFrame:
    return pd.DataFrame(
        {
            "barcode": [f"3{n:07d}" for n in range(1, 391)],
            "title_id": rng.choice(titles.title_id.iloc[:104], 390),
            "branch_code": rng.choice(branches.branch_code, 390, p=[0.42, 0.14, 0.13, 0.16, 0.1, 0.05]),
            "bought_on": days(rng, "2008-01-01", "2026-01-31", 390),
            "price": np.round(rng.uniform(4, 34, 390), 2),
            "condition": rng.choice(["new", "good", "worn", "damaged"], 390, p=[0.2, 0.5, 0.24, 0.06]),
            "withdrawn": rng.choice(["yes", "no"], 390, p=[0.07, 0.93]),
        }
    )


def _readers(branches: pd.DataFrame) -> pd.DataFrame:
    first = rng.choice(["Ann", "Bill", "Cath", "Dan", "Eve", "Frank", "Gail", "Hugh", "Iris", "Joe"], 300)
    last = rng.choice(["Abbott", "Birch", "Cole", "Drew", "Eaton", "Flint", "Grant", "Hale"], 300)
    return pd.DataFrame(
        {
            "card_no": range(20001, 20301),
            "first_name": first,
            "last_name": last,
            "date_of_birth": days(rng, "1935-01-01", "2020-01-01", 300),
            "joined": days(rng, "2012-01-01", "2026-02-20", 300),
            "home_branch": rng.choice(branches.branch_code.iloc[:5], 300),
            "postcode_area": rng.choice(["KW1", "KW2", "KW3", "KW7"], 300),
            "email": [f"r{n}@example.org" if rng.random() < 0.7 else None for n in range(300)],
        }
    )


def _loans(copies: pd.DataFrame, readers: pd.DataFrame) -> pd.DataFrame:
    out = days(rng, "2024-01-02", "2026-02-27", 2400)
    due = out + pd.Timedelta(days=21)
    back = out + pd.to_timedelta(rng.integers(1, 45, 2400), unit="D")
    seen = (back <= NOW) & pd.Series(rng.random(2400) < 0.985)
    overdue = ((back - due).dt.days.clip(lower=0)).where(seen)
    return pd.DataFrame(
        {
            "loan_no": range(1, 2401),
            "barcode": rng.choice(copies.barcode.iloc[:360], 2400),
            "card_no": rng.choice(readers.card_no.iloc[:270], 2400),
            "lent_on": out,
            "due_back": due,
            "returned_on": back.where(seen),
            "renewals": rng.choice([0, 0, 0, 1, 2], 2400),
            "fine": np.round(overdue * 0.15, 2),
        }
    )


def _holds(titles: pd.DataFrame, readers: pd.DataFrame) -> pd.DataFrame:
    placed = days(rng, "2025-06-01", "2026-02-27", 260)
    filled = placed + pd.to_timedelta(rng.integers(1, 70, 260), unit="D")
    return pd.DataFrame(
        {
            "hold_id": range(1, 261),
            "title_id": rng.choice(titles.title_id.iloc[:70], 260),
            "card_no": rng.choice(readers.card_no, 260),
            "placed_on": placed,
            "filled_on": filled.where(filled <= NOW),
        }
    )


bra = _branches()
tit = _titles()
cop = _copies(tit, bra)
rea = _readers(bra)
loa = _loans(cop, rea)
hol = _holds(tit, rea)
TABLES = {"branches": bra, "titles": tit, "copies": cop, "readers": rea, "loans": loa, "holds": hol}
full = loa.merge(cop, on="barcode").merge(tit, on="title_id").merge(bra, on="branch_code")
FULL = "loans JOIN copies USING (barcode) JOIN titles USING (title_id) JOIN branches USING (branch_code)"
stock = cop.merge(tit, on="title_id").merge(bra, on="branch_code")
STOCK = "copies JOIN titles USING (title_id) JOIN branches USING (branch_code)"
lr = loa.merge(rea, on="card_no")
LR = "loans JOIN readers USING (card_no)"
out = loa[loa.returned_on.isna()]


def _age(born: pd.Series) -> pd.Series:
    had = (born.dt.month * 100 + born.dt.day) <= 228
    return 2026 - born.dt.year - (~had).astype(int)


AGE = "date_sub('year', date_of_birth, DATE '2026-02-28')"


QUESTIONS = [
    Asked("How many loans have there been?", 1, "count", "SELECT count(*) FROM loans", lambda: len(loa)),
    Asked("titles per genre", 1, "group count", "SELECT genre, count(*) FROM titles GROUP BY 1", lambda: tit.groupby("genre").size()),
    Asked("how many copies does Quayside hold", 3, "join filter count", f"SELECT count(*) FROM {STOCK} WHERE branch = 'Quayside'", lambda: int((stock.branch == "Quayside").sum())),
    Asked("longest book", 2, "adjective top", "SELECT title FROM titles ORDER BY pages DESC LIMIT 1", lambda: tit.nlargest(1, "pages")[["title"]]),
    Asked("books in Welsh", 2, "filter list", "SELECT title FROM titles WHERE language = 'Welsh'", lambda: tit[tit.language == "Welsh"][["title"]]),
    Asked("average price of a copy", 1, "mean", "SELECT avg(price) FROM copies", lambda: cop.price.mean()),
    Asked("what is currently on loan?", 4, "state list", "SELECT loan_no FROM loans WHERE returned_on IS NULL", lambda: out[["loan_no"]], note="the loans, or their titles", also=(lambda: full[full.returned_on.isna()][["title"]], lambda: full[full.returned_on.isna()][["title"]].drop_duplicates())),
    Asked("how many loans are overdue", 4, "state overdue count", "SELECT count(*) FROM loans WHERE returned_on IS NULL AND due_back < DATE '2026-02-28'", lambda: int((out.due_back < NOW).sum())),
    Asked("loans per branch in 2025", 3, "join group time", f"SELECT branch, count(*) FROM {FULL} WHERE year(lent_on) = 2025 GROUP BY 1", lambda: full[full.lent_on.dt.year == 2025].groupby("branch").size()),
    Asked("most borrowed title", 3, "join top", f"SELECT title, count(*) n FROM {FULL} GROUP BY 1 ORDER BY n DESC LIMIT 1", lambda: top(full.groupby("title").size()), optional=(1,)),
    Asked("top 5 authors by loans", 3, "join top", f"SELECT author, count(*) n FROM {FULL} GROUP BY 1 ORDER BY n DESC LIMIT 5", lambda: top(full.groupby("author").size(), 5), ordered=True),
    Asked("titles nobody has borrowed", 3, "anti-join", f"SELECT title FROM titles WHERE title_id NOT IN (SELECT title_id FROM {FULL})", lambda: tit[~tit.title_id.isin(full.title_id)][["title"]]),
    Asked("titles we have no copy of", 3, "anti-join", "SELECT title FROM titles WHERE title_id NOT IN (SELECT title_id FROM copies)", lambda: tit[~tit.title_id.isin(cop.title_id)][["title"]]),
    Asked("readers who never borrowed a book", 3, "anti-join count list", "SELECT card_no FROM readers WHERE card_no NOT IN (SELECT card_no FROM loans)", lambda: rea[~rea.card_no.isin(loa.card_no)][["card_no"]]),
    Asked("readers under 18", 3, "age list", f"SELECT card_no FROM readers WHERE {AGE} < 18", lambda: rea[_age(rea.date_of_birth) < 18][["card_no"]]),
    Asked("average age of readers by home branch", 4, "age group", f"SELECT home_branch, avg({AGE}) FROM readers GROUP BY 1", lambda: _age(rea.date_of_birth).groupby(rea.home_branch).mean()),
    Asked("how many readers gave no email", 2, "missing count", "SELECT count(*) FROM readers WHERE email IS NULL", lambda: int(rea.email.isna().sum())),
    Asked("total fines in 2025", 2, "time sum", "SELECT sum(fine) FROM loans WHERE year(lent_on) = 2025", lambda: loa[loa.lent_on.dt.year == 2025].fine.sum(), note="by the day lent"),
    Asked("fines by branch", 3, "join group sum", f"SELECT branch, sum(fine) FROM {FULL} GROUP BY 1", lambda: full.groupby("branch").fine.sum()),
    Asked("average loan length in days per genre", 3, "duration join group", f"SELECT genre, avg(date_diff('day', lent_on, returned_on)) FROM {FULL} GROUP BY 1", lambda: full.assign(d=(full.returned_on - full.lent_on).dt.days).groupby("genre").d.mean()),
    Asked("percentage of loans brought back late", 4, "share state", "SELECT avg((returned_on > due_back)::int) FROM loans WHERE returned_on IS NOT NULL", lambda: (lambda r: (r.returned_on > r.due_back).mean())(loa[loa.returned_on.notna()]), percent=(0,), note="of those back", also=(lambda: (loa.returned_on > loa.due_back).mean(),)),
    Asked("which branch has the worst late rate", 4, "share state top", f"SELECT branch, avg((returned_on > due_back)::int) s FROM {FULL} WHERE returned_on IS NOT NULL GROUP BY 1 ORDER BY s DESC LIMIT 1", lambda: (lambda f: top((f.returned_on > f.due_back).groupby(f.branch).mean()))(full[full.returned_on.notna()]), optional=(1,)),
    Asked("loans per month since January 2025", 2, "time group", "SELECT date_trunc('month', lent_on)::date, count(*) FROM loans WHERE lent_on >= DATE '2025-01-01' GROUP BY 1", lambda: (lambda r: r.groupby(r.lent_on.dt.to_period("M")).size())(loa[loa.lent_on >= "2025-01-01"])),
    Asked("only children's books", 3, "follow-up filter", f"SELECT date_trunc('month', lent_on)::date, count(*) FROM {FULL} WHERE lent_on >= DATE '2025-01-01' AND genre = 'children''s' GROUP BY 1", lambda: (lambda r: r.groupby(r.lent_on.dt.to_period("M")).size())(full[(full.lent_on >= "2025-01-01") & (full.genre == "children's")]), after=1),
    Asked("as a share of all loans", 4, "follow-up share", f"SELECT m, k * 1.0 / n FROM (SELECT date_trunc('month', lent_on)::date m, count(*) FILTER (genre = 'children''s') k, count(*) n FROM {FULL} WHERE lent_on >= DATE '2025-01-01' GROUP BY 1)", lambda: (lambda r: (r.genre == "children's").groupby(r.lent_on.dt.to_period("M")).mean())(full[full.lent_on >= "2025-01-01"]), after=1, percent=(1,)),
    Asked("loans per square metre by branch", 4, "ratio join", f"SELECT branch, count(*) * 1.0 / any_value(floor_area_sqm) FROM {FULL} GROUP BY 1", lambda: full.groupby("branch").size() / bra.set_index("branch").floor_area_sqm),
    Asked("loans per member of staff, by branch", 4, "ratio join", f"SELECT branch, count(*) * 1.0 / any_value(staff) FROM {FULL} GROUP BY 1", lambda: full.groupby("branch").size() / bra.set_index("branch").staff),
    Asked("which branches open on Sundays", 1, "flag list", "SELECT branch FROM branches WHERE open_sundays", lambda: bra[bra.open_sundays][["branch"]]),
    Asked("copies that are worn or damaged, by branch", 3, "set group join", f"SELECT branch, count(*) FROM {STOCK} WHERE condition IN ('worn', 'damaged') GROUP BY 1", lambda: stock[stock.condition.isin(["worn", "damaged"])].groupby("branch").size()),
    Asked("value of the stock per branch, without withdrawn copies", 4, "join sum exclude", f"SELECT branch, sum(price) FROM {STOCK} WHERE withdrawn = 'no' GROUP BY 1", lambda: stock[stock.withdrawn == "no"].groupby("branch").price.sum()),
    Asked("copies older than 15 years", 3, "age list", "SELECT barcode FROM copies WHERE bought_on < DATE '2011-02-28'", lambda: cop[cop.bought_on < "2011-02-28"][["barcode"]]),
    Asked("books published in the nineties", 3, "decade list", "SELECT title FROM titles WHERE published BETWEEN 1990 AND 1999", lambda: tit[tit.published.between(1990, 1999)][["title"]]),
    Asked("titles by decade of publication", 3, "bins count", "SELECT published // 10 * 10, count(*) FROM titles GROUP BY 1", lambda: tit.groupby(tit.published // 10 * 10).size()),
    Asked("average number of pages, crime vs history", 2, "compare values", "SELECT genre, avg(pages) FROM titles WHERE genre IN ('crime', 'history') GROUP BY 1", lambda: tit[tit.genre.isin(["crime", "history"])].groupby("genre").pages.mean(), side=True),
    Asked("how many different people borrowed something in January 2026", 3, "distinct time", "SELECT count(DISTINCT card_no) FROM loans WHERE lent_on BETWEEN DATE '2026-01-01' AND DATE '2026-01-31'", lambda: loa[(loa.lent_on >= "2026-01-01") & (loa.lent_on <= "2026-01-31")].card_no.nunique()),
    Asked("readers with more than 15 loans", 3, "has at least list", "SELECT card_no FROM loans GROUP BY 1 HAVING count(*) > 15", lambda: (lambda s: s[s > 15].reset_index()[["card_no"]])(loa.groupby("card_no").size())),
    Asked("average loans per reader", 3, "two step mean", "SELECT count(*) * 1.0 / count(DISTINCT card_no) FROM loans", lambda: len(loa) / loa.card_no.nunique(), note="of those who borrowed; or of all readers", also=(lambda: len(loa) / len(rea),)),
    Asked("new readers by year", 2, "time group", "SELECT year(joined), count(*) FROM readers GROUP BY 1", lambda: rea.groupby(rea.joined.dt.year).size()),
    Asked("holds still waiting", 2, "state list", "SELECT hold_id FROM holds WHERE filled_on IS NULL", lambda: hol[hol.filled_on.isna()][["hold_id"]]),
    Asked("how long do readers wait for a hold on average", 3, "duration mean", "SELECT avg(date_diff('day', placed_on, filled_on)) FROM holds", lambda: (hol.filled_on - hol.placed_on).dt.days.mean()),
    Asked("titles with more holds than copies", 4, "compare counts", "SELECT title FROM titles t WHERE (SELECT count(*) FROM holds h WHERE h.title_id = t.title_id) > (SELECT count(*) FROM copies c WHERE c.title_id = t.title_id)", lambda: tit[tit.title_id.map(hol.groupby("title_id").size()).fillna(0) > tit.title_id.map(cop.groupby("title_id").size()).fillna(0)][["title"]]),
    Asked("share of loans that were renewed", 3, "share condition", "SELECT avg((renewals > 0)::int) FROM loans", lambda: (loa.renewals > 0).mean(), percent=(0,)),
    Asked("compare loans in 2024 and 2025 by genre", 3, "compare periods join", f"SELECT genre, year(lent_on), count(*) FROM {FULL} WHERE year(lent_on) IN (2024, 2025) GROUP BY 1, 2", lambda: (lambda f: f.groupby(["genre", f.lent_on.dt.year.rename("year")]).size())(full[full.lent_on.dt.year.isin([2024, 2025])])),
    Asked("who borrowed The Glass Harbour" if "The Glass Harbour" in set(tit.title) else f"who borrowed {tit.title[3]}", 3, "join lookup list", f"SELECT DISTINCT card_no FROM {FULL} WHERE title = '{'The Glass Harbour' if 'The Glass Harbour' in set(tit.title) else tit.title[3]}'", lambda: full[full.title == ("The Glass Harbour" if "The Glass Harbour" in set(tit.title) else tit.title[3])][["card_no"]].drop_duplicates()),
    Asked("do older readers borrow more? loans by age band of 10 years", 4, "age bins", f"SELECT {AGE} // 10 * 10, count(*) FROM {LR} GROUP BY 1", lambda: loa.card_no.map((_age(rea.date_of_birth) // 10 * 10).set_axis(rea.card_no)).value_counts().sort_index(), also=(lambda: (loa.card_no.map((_age(rea.date_of_birth) // 10 * 10).set_axis(rea.card_no)).value_counts() / (_age(rea.date_of_birth) // 10 * 10).value_counts()).dropna(),)),
    Asked("branch with most staff per 1000 sqm", 4, "ratio top", "SELECT branch, staff * 1000.0 / floor_area_sqm r FROM branches ORDER BY r DESC LIMIT 1", lambda: top((bra.staff * 1000 / bra.floor_area_sqm).set_axis(bra.branch))),
    Asked("what do we pay in rent for the branches", 1, "trap", outcome=("asks", "declined"), note="no rents here"),
    Asked("genere with the most withdrawn copies", 3, "typo join top", f"SELECT genre, count(*) n FROM {STOCK} WHERE withdrawn = 'yes' GROUP BY 1 ORDER BY n DESC LIMIT 1", lambda: top(stock[stock.withdrawn == "yes"].groupby("genre").size()), optional=(1,)),
    Asked("readers who borrowed crime but never romance, how many", 4, "has and has not count", f"SELECT count(DISTINCT card_no) FROM {FULL} WHERE genre = 'crime' AND card_no NOT IN (SELECT card_no FROM {FULL} WHERE genre = 'romance')", lambda: len(set(full[full.genre == "crime"].card_no) - set(full[full.genre == "romance"].card_no))),
    Asked("loans at branches other than the reader's home branch", 4, "compare columns join count", f"SELECT count(*) FROM {LR} JOIN copies USING (barcode) WHERE branch_code <> home_branch", lambda: int((lr.merge(cop, on="barcode").branch_code != lr.merge(cop, on="barcode").home_branch).sum()), note="the count, or the loans", also=(lambda: lr.merge(cop, on="barcode")[lambda f: f.branch_code != f.home_branch][["loan_no"]],)),
]  # fmt: skip

PACK = Pack("Libraries of a county", "Branches, titles, copies, readers, loans and holds.", TODAY, TABLES, QUESTIONS)
