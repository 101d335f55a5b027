"""A firm's hiring: vacancies, candidates, applications and interviews, in a personnel officer's words."""

from __future__ import annotations

import datetime as dt

import numpy as np
import pandas as pd

from tests.packs.making import Asked, Pack, days, top

TODAY = dt.date(2026, 6, 30)
rng = np.random.default_rng(41)


def _vacancies() -> pd.DataFrame:
    jobs = {
        "Warehouse Operative": ("Logistics", 23000), "Forklift Driver": ("Logistics", 26000),
        "Bookkeeper": ("Finance", 29000), "Payroll Clerk": ("Finance", 27000), "Controller": ("Finance", 52000),
        "Welder": ("Production", 31000), "Shift Leader": ("Production", 36000), "Quality Inspector": ("Production", 33000),
        "Sales Rep": ("Sales", 32000), "Key Account Manager": ("Sales", 48000), "Systems Engineer": ("IT", 46000),
        "Help Desk Agent": ("IT", 28000),
    }  # fmt: skip
    titles = rng.choice(list(jobs), 70)
    base = np.array([jobs[t][1] for t in titles]) + rng.integers(-2, 3, 70) * 500
    opened = days(rng, "2024-07-01", "2026-06-20", 70)
    closed = opened + pd.to_timedelta(rng.integers(20, 110, 70), unit="D")
    return pd.DataFrame(
        {
            "Vacancy Ref": [f"V-{n:03d}" for n in range(1, 71)],
            "Job Title": titles,
            "Department": [jobs[t][0] for t in titles],
            "Site": rng.choice(["Aldworth", "Brimley", "Corsham Road"], 70, p=[0.5, 0.3, 0.2]),
            "Opened On": opened,
            "Closed On": closed.where(closed <= pd.Timestamp(TODAY)),
            "Salary From": base,
            "Salary To": base + rng.integers(2, 9, 70) * 1000,
            "Hours": rng.choice(["Full time", "Part time"], 70, p=[0.75, 0.25]),
            "Hiring Manager": rng.choice(["Ruth Abney", "Jonas Pell", "Mina Osei", "Carla Vint"], 70),
        }
    )


def _candidates() -> pd.DataFrame:
    first = rng.choice(
        ["Amy", "Boris", "Chloe", "Dev", "Esther", "Farid", "Gwen", "Hal", "Ines", "Jude", "Kofi", "Lena"], 420
    )
    last = rng.choice(["Marsh", "Nowak", "Oduya", "Price", "Quist", "Rowe", "Sandhu", "Thorne", "Ueda", "Vale"], 420)
    return pd.DataFrame(
        {
            "Candidate No": range(5001, 5421),
            "Full Name": [f"{a} {b}" for a, b in zip(first, last, strict=True)],
            "Town": rng.choice(["Aldworth", "Tarrow", "Wick End", "Pensby", "Lower Stoke"], 420),
            "Source": rng.choice(["Job board", "Referral", "Agency", "Careers page", "Walk-in"], 420, p=[0.4, 0.15, 0.2, 0.2, 0.05]),
            "Registered On": days(rng, "2024-06-01", "2026-06-15", 420),
            "Years of Experience": rng.integers(0, 26, 420),
            "Degree": rng.choice(["Yes", "No"], 420, p=[0.4, 0.6]),
        }
    )  # fmt: skip


def _applications(vacancies: pd.DataFrame, candidates: pd.DataFrame) -> pd.DataFrame:
    picked = rng.integers(0, 64, 900)
    applied = vacancies["Opened On"].iloc[picked].reset_index(drop=True)
    applied += pd.to_timedelta(rng.integers(1, 40, 900), unit="D")
    applied = applied.where(applied <= pd.Timestamp(TODAY), pd.Timestamp(TODAY))
    stage = pd.Series(
        rng.choice(
            ["New", "Phone screen", "Interview", "Offer", "Hired", "Rejected", "Withdrawn"],
            900,
            p=[0.08, 0.08, 0.08, 0.03, 0.07, 0.56, 0.1],
        )
    )
    decided = applied + pd.to_timedelta(rng.integers(3, 60, 900), unit="D")
    decided = decided.where(decided <= pd.Timestamp(TODAY), pd.Timestamp(TODAY))
    done = stage.isin(["Hired", "Rejected", "Withdrawn"])
    return pd.DataFrame(
        {
            "Application ID": range(90001, 90901),
            "Vacancy Ref": vacancies["Vacancy Ref"].iloc[picked].to_numpy(),
            "Candidate No": rng.choice(candidates["Candidate No"].iloc[:380], 900),
            "Applied On": applied,
            "Stage": stage,
            "Decided On": decided.where(done),
            "Test Score": pd.Series(rng.integers(20, 101, 900).astype(float)).where(pd.Series(rng.random(900) < 0.7)),
        }
    )


def _interviews(applications: pd.DataFrame) -> pd.DataFrame:
    rows = rng.choice(len(applications), 320)
    applied = applications["Applied On"].iloc[rows].reset_index(drop=True)
    return pd.DataFrame(
        {
            "Interview ID": range(1, 321),
            "Application ID": applications["Application ID"].iloc[rows].to_numpy(),
            "Held On": applied + pd.to_timedelta(rng.integers(2, 25, 320), unit="D"),
            "Interviewer": rng.choice(["Ruth Abney", "Jonas Pell", "Mina Osei", "Carla Vint", "Otto Brand"], 320),
            "Format": rng.choice(["On site", "Video", "Phone"], 320, p=[0.5, 0.3, 0.2]),
            "Minutes": rng.choice([30, 45, 60, 90], 320),
            "Mark": rng.integers(1, 11, 320),
            "Turned Up": rng.choice(["Yes", "No"], 320, p=[0.88, 0.12]),
        }
    )


vac = _vacancies()
cand = _candidates()
app = _applications(vac, cand)
itv = _interviews(app)
full = app.merge(vac, on="Vacancy Ref").merge(cand, on="Candidate No")
talks = itv.merge(full, on="Application ID")
TABLES = {"vacancies": vac, "candidates": cand, "applications": app, "interviews": itv}
FULL = 'applications a JOIN vacancies v USING ("Vacancy Ref") JOIN candidates c USING ("Candidate No")'
open_ = vac[vac["Closed On"].isna()]
hired = full[full.Stage == "Hired"]


QUESTIONS = [
    Asked("how many applications did we get", 1, "count", "SELECT count(*) FROM applications", lambda: len(app)),
    Asked("number of candidates", 1, "count", "SELECT count(*) FROM candidates", lambda: len(cand)),
    Asked("vacancies by department", 2, "group count", 'SELECT Department, count(*) FROM vacancies GROUP BY 1', lambda: vac.groupby("Department").size()),
    Asked("what's the average test score?", 1, "mean", 'SELECT avg("Test Score") FROM applications', lambda: app["Test Score"].mean()),
    Asked("how many vacancies are still open?", 2, "state", 'SELECT count(*) FROM vacancies WHERE "Closed On" IS NULL', lambda: len(open_)),
    Asked("list the open vacancies in Finance", 2, "state list", 'SELECT "Vacancy Ref" FROM vacancies WHERE "Closed On" IS NULL AND Department = \'Finance\'', lambda: open_[open_.Department == "Finance"][["Vacancy Ref"]]),
    Asked("applications per source", 3, "join group count", f"SELECT Source, count(*) FROM {FULL} GROUP BY 1", lambda: full.groupby("Source").size()),
    Asked("How many people did we hire last year?", 3, "state time", "SELECT count(*) FROM applications WHERE Stage = 'Hired' AND year(\"Decided On\") = 2025", lambda: int(((app.Stage == "Hired") & (app["Decided On"].dt.year == 2025)).sum())),
    Asked("hires by hiring manager", 3, "state join group", f"SELECT \"Hiring Manager\", count(*) FROM {FULL} WHERE Stage = 'Hired' GROUP BY 1", lambda: hired.groupby("Hiring Manager").size()),
    Asked("Which department gets the most applications?", 3, "join top", f"SELECT Department, count(*) n FROM {FULL} GROUP BY 1 ORDER BY n DESC LIMIT 1", lambda: top(full.groupby("Department").size())),
    Asked("share of applications that were rejected", 3, "share", "SELECT avg((Stage = 'Rejected')::int) FROM applications", lambda: (app.Stage == "Rejected").mean(), percent=(0,)),
    Asked("rejection rate by department", 3, "share join group", f"SELECT Department, avg((Stage = 'Rejected')::int) FROM {FULL} GROUP BY 1", lambda: full.assign(r=full.Stage == "Rejected").groupby("Department").r.mean(), percent=(1,)),
    Asked("average years of experience of the people we hired", 3, "state join mean", f"SELECT avg(\"Years of Experience\") FROM {FULL} WHERE Stage = 'Hired'", lambda: hired["Years of Experience"].mean(), note="an application each", also=(lambda: hired.drop_duplicates("Candidate No")["Years of Experience"].mean(),)),
    Asked("how long does it take from applying to a decision on average?", 3, "duration", "SELECT avg(date_diff('day', \"Applied On\", \"Decided On\")) FROM applications", lambda: (app["Decided On"] - app["Applied On"]).dt.days.mean()),
    Asked("same by department", 3, "follow-up group", f"SELECT Department, avg(date_diff('day', \"Applied On\", \"Decided On\")) FROM {FULL} GROUP BY 1", lambda: full.assign(d=(full["Decided On"] - full["Applied On"]).dt.days).groupby("Department").d.mean(), after=1),
    Asked("candidates who never applied for anything", 3, "anti-join list", 'SELECT "Candidate No" FROM candidates WHERE "Candidate No" NOT IN (SELECT "Candidate No" FROM applications)', lambda: cand[~cand["Candidate No"].isin(app["Candidate No"])][["Candidate No"]]),
    Asked("vacancies nobody applied for", 3, "anti-join list", 'SELECT "Vacancy Ref" FROM vacancies WHERE "Vacancy Ref" NOT IN (SELECT "Vacancy Ref" FROM applications)', lambda: vac[~vac["Vacancy Ref"].isin(app["Vacancy Ref"])][["Vacancy Ref"]]),
    Asked("how many candidates applied for five jobs or more", 3, "has at least", 'SELECT count(*) FROM (SELECT "Candidate No" FROM applications GROUP BY 1 HAVING count(*) >= 5)', lambda: int((app.groupby("Candidate No").size() >= 5).sum())),
    Asked("interviews per month in 2025", 2, "time group", "SELECT date_trunc('month', \"Held On\")::date m, count(*) FROM interviews WHERE year(\"Held On\") = 2025 GROUP BY 1", lambda: itv[itv["Held On"].dt.year == 2025].groupby(itv["Held On"].dt.to_period("M")).size()),
    Asked("who gives the lowest marks?", 3, "top mean", 'SELECT Interviewer, avg(Mark) m FROM interviews GROUP BY 1 ORDER BY m LIMIT 1', lambda: top(itv.groupby("Interviewer").Mark.mean(), rising=True)),
    Asked("no-show rate per interview format", 3, "share group state", "SELECT Format, avg((\"Turned Up\" = 'No')::int) FROM interviews GROUP BY 1", lambda: itv.assign(n=itv["Turned Up"] == "No").groupby("Format").n.mean(), percent=(1,)),
    Asked("candidates from Tarrow with over 10 yrs experience", 2, "filter list", "SELECT \"Candidate No\" FROM candidates WHERE Town = 'Tarrow' AND \"Years of Experience\" > 10", lambda: cand[(cand.Town == "Tarrow") & (cand["Years of Experience"] > 10)][["Candidate No"]]),
    Asked("referral candidates with a degree, how many?", 2, "filter count flag", "SELECT count(*) FROM candidates WHERE Source = 'Referral' AND Degree = 'Yes'", lambda: int(((cand.Source == "Referral") & (cand.Degree == "Yes")).sum())),
    Asked("do candidates with a degree score better in the test?", 4, "compare groups", f"SELECT Degree, avg(\"Test Score\") FROM {FULL} GROUP BY 1", lambda: full.groupby("Degree")["Test Score"].mean(), side=True),
    Asked("top 5 job titles by number of applicants", 3, "join top distinct", f'SELECT "Job Title", count(DISTINCT "Candidate No") n FROM {FULL} GROUP BY 1 ORDER BY n DESC, 1 LIMIT 5', lambda: top(full.groupby("Job Title")["Candidate No"].nunique().sort_index(), 5), note="or applications", also=(lambda: top(full.groupby("Job Title").size(), 5),)),
    Asked("which vacancy had the highest starting salary", 2, "top", 'SELECT "Vacancy Ref" FROM vacancies ORDER BY "Salary From" DESC, 1 LIMIT 1', lambda: vac.sort_values(["Salary From", "Vacancy Ref"], ascending=[False, True]).head(1)[["Vacancy Ref"]]),
    Asked("average width of the salary band by department", 3, "derive group", 'SELECT Department, avg("Salary To" - "Salary From") FROM vacancies GROUP BY 1', lambda: (vac["Salary To"] - vac["Salary From"]).groupby(vac.Department).mean()),
    Asked("vacancies that were open for more than 90 days", 3, "duration list", "SELECT \"Vacancy Ref\" FROM vacancies WHERE date_diff('day', \"Opened On\", \"Closed On\") > 90", lambda: vac[(vac["Closed On"] - vac["Opened On"]).dt.days > 90][["Vacancy Ref"]]),
    Asked("median time to fill in days", 4, "duration median", "SELECT median(date_diff('day', \"Opened On\", \"Closed On\")) FROM vacancies", lambda: (vac["Closed On"] - vac["Opened On"]).dt.days.median()),
    Asked("how many applications came in each quarter", 2, "time group", "SELECT date_trunc('quarter', \"Applied On\")::date q, count(*) FROM applications GROUP BY 1", lambda: app.groupby(app["Applied On"].dt.to_period("Q")).size()),
    Asked("compare applications in the first half of 2025 with the first half of 2026", 4, "compare periods", "SELECT year(\"Applied On\") y, count(*) FROM applications WHERE month(\"Applied On\") <= 6 AND year(\"Applied On\") IN (2025, 2026) GROUP BY 1", lambda: (lambda a: a[(a["Applied On"].dt.month <= 6) & a["Applied On"].dt.year.isin([2025, 2026])].groupby(a["Applied On"].dt.year).size())(app), outcome=("answered",), side=True),
    Asked("applications per vacancy on average", 3, "ratio", "SELECT count(*) * 1.0 / count(DISTINCT \"Vacancy Ref\") FROM applications", lambda: len(app) / app["Vacancy Ref"].nunique(), also=(lambda: len(app) / len(vac),)),
    Asked("which source brings the best test scores?", 3, "join top mean", f"SELECT Source, avg(\"Test Score\") s FROM {FULL} GROUP BY 1 ORDER BY s DESC LIMIT 1", lambda: top(full.groupby("Source")["Test Score"].mean())),
    Asked("hired candidates by source, as a percentage", 3, "share join", f"SELECT Source, count(*) * 100.0 / sum(count(*)) OVER () FROM {FULL} WHERE Stage = 'Hired' GROUP BY 1", lambda: hired.groupby("Source").size() * 100 / len(hired), percent=(1,), also=(lambda: hired.groupby("Source")["Candidate No"].nunique() * 100 / hired["Candidate No"].nunique(),)),
    Asked("applicants living where the job is", 4, "compare columns", f'SELECT count(*) FROM {FULL} WHERE Town = Site', lambda: int((full.Town == full.Site).sum()), outcome=("answered", "asks", "declined")),
    Asked("part-time vacancies at Brimley", 2, "filter list", "SELECT \"Vacancy Ref\" FROM vacancies WHERE Hours = 'Part time' AND Site = 'Brimley'", lambda: vac[(vac.Hours == "Part time") & (vac.Site == "Brimley")][["Vacancy Ref"]]),
    Asked("total interview hours per interviewer", 3, "unit sum group", "SELECT Interviewer, sum(Minutes) / 60.0 FROM interviews GROUP BY 1", lambda: itv.groupby("Interviewer").Minutes.sum() / 60),
    Asked("interviews longer than an hour", 2, "filter list unit", "SELECT \"Interview ID\" FROM interviews WHERE Minutes > 60", lambda: itv[itv.Minutes > 60][["Interview ID"]]),
    Asked("avg mark for welders", 3, "join filter mean", "SELECT avg(Mark) FROM interviews JOIN applications USING (\"Application ID\") JOIN vacancies USING (\"Vacancy Ref\") WHERE \"Job Title\" = 'Welder'", lambda: talks[talks["Job Title"] == "Welder"].Mark.mean()),
    Asked("how many applications are waiting for a decision", 4, "state gap", 'SELECT count(*) FROM applications WHERE "Decided On" IS NULL', lambda: int(app["Decided On"].isna().sum())),
    Asked("break that down by stage", 3, "follow-up group", 'SELECT Stage, count(*) FROM applications WHERE "Decided On" IS NULL GROUP BY 1', lambda: app[app["Decided On"].isna()].groupby("Stage").size(), after=1),
    Asked("which of them are older than 60 days? just the number", 4, "follow-up age", "SELECT count(*) FROM applications WHERE \"Decided On\" IS NULL AND date_diff('day', \"Applied On\", DATE '2026-06-30') > 60", lambda: int((app["Decided On"].isna() & ((pd.Timestamp(TODAY) - app["Applied On"]).dt.days > 60)).sum()), after=2),
    Asked("experience of candidates in bands of 5 years", 3, "bins count", 'SELECT ("Years of Experience" // 5) * 5, count(*) FROM candidates GROUP BY 1', lambda: cand.groupby(cand["Years of Experience"] // 5 * 5).size()),
    Asked("how many withdrew, by month of application, this year", 3, "state time group", "SELECT date_trunc('month', \"Applied On\")::date m, count(*) FROM applications WHERE Stage = 'Withdrawn' AND year(\"Applied On\") = 2026 GROUP BY 1", lambda: (lambda w: w.groupby(w["Applied On"].dt.to_period("M")).size())(app[(app.Stage == "Withdrawn") & (app["Applied On"].dt.year == 2026)])),
    Asked("the newest three candidates", 2, "top date", 'SELECT "Candidate No" FROM candidates ORDER BY "Registered On" DESC, 1 LIMIT 3', lambda: cand.sort_values(["Registered On", "Candidate No"], ascending=[False, True]).head(3)[["Candidate No"]]),
    Asked("did test scores go up from 2025 to 2026?", 4, "change", "SELECT year(\"Applied On\"), avg(\"Test Score\") FROM applications WHERE year(\"Applied On\") IN (2025, 2026) GROUP BY 1", lambda: app[app["Applied On"].dt.year.isin([2025, 2026])].groupby(app["Applied On"].dt.year)["Test Score"].mean(), note="or the two side by side with their difference", side=True),
    Asked("average salary from for jobs in IT vs Sales", 2, "compare values", "SELECT Department, avg(\"Salary From\") FROM vacancies WHERE Department IN ('IT', 'Sales') GROUP BY 1", lambda: vac[vac.Department.isin(["IT", "Sales"])].groupby("Department")["Salary From"].mean(), side=True),
    Asked("how many candidates have applied to more than one department", 4, "distinct having", f'SELECT count(*) FROM (SELECT "Candidate No" FROM {FULL} GROUP BY 1 HAVING count(DISTINCT Department) > 1)', lambda: int((full.groupby("Candidate No").Department.nunique() > 1).sum())),
    Asked("what does the training of new starters cost us?", 1, "trap", outcome=("asks", "declined"), note="nothing about training"),
    Asked("wich interviewer did the most intervews", 3, "typo top", 'SELECT Interviewer, count(*) n FROM interviews GROUP BY 1 ORDER BY n DESC LIMIT 1', lambda: top(itv.groupby("Interviewer").size())),
]  # fmt: skip

PACK = Pack(
    "Hiring at a works",
    "Vacancies, candidates, applications and interviews of a made-up firm.",
    TODAY,
    TABLES,
    QUESTIONS,
    {
        "vacancies": lambda f: f.assign(
            **{"Opened On": f["Opened On"].dt.strftime("%d/%m/%Y"), "Closed On": f["Closed On"].dt.strftime("%d/%m/%Y")}
        ).to_csv(index=False)
    },
)
