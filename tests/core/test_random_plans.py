"""Random tables and random plans: the engine, the second working and the pandas code give the same rows."""

from __future__ import annotations

import contextlib
import datetime as dt
import io
import os
import random
import tempfile
import unittest
from pathlib import Path
from typing import Any

from gumption.core.model.types import Type
from gumption.core.plan.expressions import (
    Aggregate,
    Arithmetic,
    Between,
    ColumnRef,
    Compare,
    Constant,
    DateFloor,
    DatePart,
    Expression,
    IsMissing,
    Negated,
    OneOf,
    TextMatch,
)
from gumption.core.plan.steps import Derive, Group, Keep, Limit, Plan, Sort, SortKey, Step, Take, Window
from tests.support import has_rows, opened_from

SEED, PLANS = 7, 150
WORDS = ["Tea", "tea", "Coffee", "Ärger", "o'clock", 'a "b"', "NULLs", " x", "Zürich", "-1", ""]
DAY = dt.date(2026, 1, 1)


def table(chance: random.Random, rows: int) -> str:
    lines = ["id,word,kind,day,whole,cents,real,ok"]
    for number in range(rows):
        word = chance.choice(WORDS).replace('"', '""')
        day = dt.date(2019, 12, 28) + dt.timedelta(days=chance.randrange(1500))
        cells = [
            str(number),
            f'"{word}"',
            chance.choice("ABC"),
            day.isoformat(),
            str(chance.choice([0, 1, -1, 7, 7, 10**12])),
            f"{chance.randrange(-99999, 99999) / 100:.2f}",
            f"{chance.uniform(-5, 5):.9f}",
            chance.choice(["yes", "no"]),
        ]
        lines.append(",".join(c if i == 0 or chance.random() > 0.12 else "" for i, c in enumerate(cells)))
    return "\n".join(lines) + "\n"


def condition(chance: random.Random) -> Expression:
    number = ColumnRef(name=chance.choice(["whole", "cents", "real"]))
    day = ColumnRef(name="day")
    options: list[Expression] = [
        Compare(
            op=chance.choice(["=", "!=", "<", "<=", ">", ">="]),
            left=number,
            right=Constant(type=Type.INTEGER, value=chance.choice([0, 1, 7])),
        ),  # type: ignore[arg-type]
        Compare(
            op=chance.choice(["=", "!="]),
            left=ColumnRef(name="kind"),
            right=Constant(type=Type.TEXT, value=chance.choice("ABD")),
        ),  # type: ignore[arg-type]
        OneOf(
            value=ColumnRef(name="word"),
            options=(Constant(type=Type.TEXT, value="Tea"), Constant(type=Type.TEXT, value="o'clock")),
        ),
        TextMatch(
            how=chance.choice(["contains", "starts", "ends"]),
            value=ColumnRef(name="word"),
            pattern=chance.choice(["e", "TE", "ich", "'"]),
        ),  # type: ignore[arg-type]
        IsMissing(value=ColumnRef(name=chance.choice(["word", "day", "cents", "ok"]))),
        Between(
            value=day,
            low=Constant(type=Type.DATE, value="2020-02-29"),
            high=Constant(type=Type.DATE, value="2022-12-31"),
        ),
        Compare(
            op="=",
            left=DatePart(part=chance.choice(["weekday", "month", "quarter"]), value=day),
            right=Constant(type=Type.INTEGER, value=3),
        ),  # type: ignore[arg-type]
        Compare(op="=", left=ColumnRef(name="ok"), right=Constant(type=Type.BOOLEAN, value=True)),
    ]
    chosen = chance.choice(options)
    return Negated(item=chosen) if chance.random() < 0.4 else chosen


def plan(chance: random.Random) -> Plan:
    steps: list[Step] = [Take(table="random")]
    steps += [Keep(condition=condition(chance)) for _ in range(chance.randrange(3))]
    op = chance.choice(["+", "-", "*", "/"])
    steps.append(
        Derive(
            name="worked",
            expression=Arithmetic(
                op=op, left=ColumnRef(name="cents"), right=ColumnRef(name=chance.choice(["cents", "real"]))
            ),
        )
    )  # type: ignore[arg-type]
    steps.append(
        Derive(
            name="when",
            expression=DateFloor(unit=chance.choice(["year", "quarter", "month", "week"]), value=ColumnRef(name="day")),
        )
    )  # type: ignore[arg-type]
    if chance.random() < 0.75:
        by = tuple(chance.sample(["kind", "word", "when", "ok"], chance.randrange(3)))
        functions = chance.sample(["sum", "mean", "median", "min", "max", "count", "distinct", "percentile"], 3)
        columns = ("cents", "real", "worked")
        aggregates = [
            Aggregate(
                name=f"a{i}",
                function=f,
                column=columns[i],
                percent=chance.choice([10.0, 75.0]) if f == "percentile" else None,
            )  # type: ignore[arg-type]
            for i, f in enumerate(functions)
        ]
        steps.append(Group(by=by, aggregates=(Aggregate(name="rows", function="count"), *aggregates)))
        if by:
            function = chance.choice(["share", "rank", "running_total"])
            order = tuple(SortKey(column=n) for n in (("rows",) if function == "rank" else by))
            steps.append(Window(name="w", function=function, column="rows", order=order))  # type: ignore[arg-type]
            steps.append(Sort(keys=tuple(SortKey(column=n, descending=chance.random() < 0.5) for n in by)))
    else:
        steps.append(
            Sort(keys=(SortKey(column=chance.choice(["cents", "word", "day"]), descending=chance.random() < 0.5),))
        )
    if isinstance(steps[-1], Sort) and chance.random() < 0.5:
        steps.append(Limit(rows=chance.choice([1, 3, 50])))
    return Plan(steps=tuple(steps))


class RandomPlans(unittest.TestCase):
    def test_three_ways_agree(self) -> None:
        chance = random.Random(SEED)
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        opened, _ = opened_from(Path(scratch.name), {"random.csv": table(chance, 260)})
        before = os.getcwd()
        os.chdir(scratch.name)
        self.addCleanup(os.chdir, before)
        for number in range(PLANS):
            made = plan(chance)
            with self.subTest(number=number):
                answered = opened.answerer.answer(made, DAY)
                self.assertEqual(answered.proof.checks[0].sentence, "Computed twice, both ways agree", answered.sql)
                if number % 3 == 0:
                    self.pandas_agrees(answered.python, answered.rows)

    def pandas_agrees(self, code: str, rows: list[Any]) -> None:
        space: dict[str, Any] = {}
        with contextlib.redirect_stdout(io.StringIO()):
            exec(compile(code, "answer.py", "exec"), space)
        frame = space["answer"].astype(object)
        self.assertTrue(has_rows(frame.where(frame.notna(), None).values.tolist(), rows, ordered=False), code)
