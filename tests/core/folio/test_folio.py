"""What changed between two workings, what a watch sees, and pages as documents."""

from __future__ import annotations

import datetime as dt
import json
import unittest
from dataclasses import replace
from decimal import Decimal

from gumption.core.folio.as_html import as_html
from gumption.core.folio.as_text import as_markdown, as_python
from gumption.core.folio.changes import changed
from gumption.core.folio.document import Document, Shown, rows_beside
from gumption.core.folio.in_short import in_short
from gumption.core.folio.page import AskedThen, Kept, Part, Watch
from gumption.core.folio.watching import watched
from gumption.core.folio.working import Working, packed
from gumption.core.model.types import Grain, Role, Type, Value
from gumption.core.plan.fields import Field

MONEY = Field(Type.DECIMAL, Role.MONEY, 2)
SHARE = Field(Type.FLOAT, Role.PERCENTAGE)
NAME = Field(Type.TEXT, Role.CATEGORY)
MONTH = Field(Type.DATE, Role.DATE, grain=Grain.MONTH)
OCTOBER, NOVEMBER = dt.date(2026, 10, 1), dt.date(2026, 11, 1)


def working(fields: dict[str, Field], *rows: tuple[Value, ...], total: int = 0, **further: object) -> Working:
    return Working.model_validate(
        {
            "question": "takings",
            "reading": "the takings",
            "finding": "Found.",
            "fields": fields,
            "rows": [tuple(packed(v) for v in row) for row in rows],
            "total": total or len(rows),
            "added": ("takings",),
            "chart": None,
            "sql": "SELECT 1",
            "python": "print(1)",
            "steps": (),
            "checks": (),
            "tables": {},
            **further,
        }
    )


def by(label: Field, *rows: tuple[Value, Value], figure: Field = MONEY, name: str = "takings") -> Working:
    return working({"of": label, name: figure}, *rows)


def money(text: str) -> Decimal:
    return Decimal(text)


class Changes(unittest.TestCase):
    def told(self, before: Working, now: Working, words: str) -> None:
        self.assertEqual(changed(before, now).words, words)

    def test_who_leads_and_who_came_and_went(self) -> None:
        before = by(NAME, ("Elm", money("30")), ("Oak", money("20")), ("Ash", money("10")))
        now = by(NAME, ("Ash", money("40")), ("Elm", money("30")), ("Yew", money("5")))
        found = changed(before, now)
        words = "Ash rose from third to first; Yew came in, Oak fell out; total rose from 60.00 to 75.00, up 25.0%."
        self.assertEqual(found.words, words)
        self.assertEqual([f.what for f in found.figures], ["first by takings", "total takings"])
        self.told(before, before, "No change.")
        more = [(f"S{n}", money("1")) for n in range(9)]
        self.told(by(NAME), by(NAME, *more), "S0, S1, S2 and 6 more came in.")

    def test_a_time_tells_of_its_end(self) -> None:
        was, rose = ((OCTOBER, 0.082), (NOVEMBER, 0.05)), ((OCTOBER, 0.086), (NOVEMBER, 0.05))
        before, now = (by(MONTH, *rows, figure=SHARE, name="share") for rows in (was, rose))
        self.told(before, now, "October 2026 rose from 8.2% to 8.6%; no other moved.")
        later = by(MONTH, *was, (dt.date(2026, 12, 1), 0.04), figure=SHARE, name="share")
        self.told(before, later, "December 2026 came in.")

    def test_what_adds_up_to_nothing_has_no_total(self) -> None:
        before, now = (by(NAME, ("Elm", 0.3), ("Oak", low), figure=SHARE, name="share") for low in (0.2, 0.1))
        self.told(before, now, "Oak fell from 20.0% to 10.0%.")

    def test_one_figure(self) -> None:
        fields = {"takings": MONEY}
        before, now, none = (working(fields, (v,)) for v in (money("200"), money("150"), None))
        self.told(before, now, "Takings fell from 200.00 to 150.00, down 25.0%.")
        self.told(before, none, "Takings was 200.00 and is missing.")
        self.told(working(fields, (money("-5"),)), now, "Takings rose from −5.00 to 150.00.")

    def test_lists_and_cut_ones(self) -> None:
        fields = {"of": NAME, "at": NAME, "on": NAME}
        before, now = working(fields, ("a", "b", "c")), working(fields, ("a", "b", "d"), ("a", "b", "c"))
        self.told(before, now, "2 rows, 1 more than before; 1 came in.")
        self.told(now, working(fields, *(reversed(now.rows))), "The order is another.")
        self.told(
            working(fields, ("a", "b", "c"), total=5000),
            working(fields, ("a", "b", "c"), total=4000),
            "4,000 rows, 1,000 fewer than before.",
        )

    def test_other_columns_and_names_that_are_not_one_rows_own(self) -> None:
        self.told(
            by(NAME),
            working({"of": NAME, "cost": MONEY}),
            "The columns are not those of before: cost came in, takings fell out.",
        )
        twice = by(NAME, ("Elm", money("1")), ("Elm", money("2")))
        self.told(twice, by(NAME, ("Elm", money("1")), ("Elm", money("3"))), "1 came in and 1 fell out.")

    def test_values_come_back_as_they_were(self) -> None:
        kinds: list[tuple[Type, Value]] = [
            (Type.DECIMAL, money("1.10")), (Type.DATE, OCTOBER), (Type.TIMESTAMP, dt.datetime(2026, 10, 1, 9, 5)),
            (Type.TIME, dt.time(9, 5)), (Type.DURATION, 90.0), (Type.BOOLEAN, True), (Type.INTEGER, 7), (Type.TEXT, "7"),
            (Type.FLOAT, 2.0), (Type.TEXT, None),
        ]  # fmt: skip
        fields = {f"c{n}": Field(kind, Role.TEXT) for n, (kind, _) in enumerate(kinds)}
        held = Working.model_validate_json(working(fields, tuple(v for _, v in kinds)).model_dump_json())
        self.assertEqual(held.values(), [[v for _, v in kinds]])


class Watches(unittest.TestCase):
    def seen(self, watch: dict[str, object], of: Working) -> tuple[bool, str, str]:
        found = watched(Watch.model_validate(watch), of)
        return found.met, found.condition, found.words

    def test_rows_their_ends_and_their_total(self) -> None:
        of = by(NAME, ("Elm", money("30")), ("Oak", money("20")))
        over = {"column": "takings", "comparison": "over"}
        self.assertEqual(self.seen({**over, "bound": 25}, of), (True, "takings over 25.00", "30.00 in Elm"))
        self.assertEqual(self.seen({**over, "bound": 30}, of), (False, "takings over 30.00", "none of 2"))
        self.assertEqual(self.seen({**over, "of": "last", "bound": 25}, of)[::2], (False, "20.00 in Oak"))
        self.assertEqual(
            self.seen({**over, "of": "total", "bound": 49.99}, of), (True, "total takings over 49.99", "50.00")
        )
        self.assertTrue(self.seen({**over, "comparison": "at most", "of": "first", "bound": 30}, of)[0])

    def test_shares_are_told_in_percent_and_a_figure_that_is_gone_as_that(self) -> None:
        of = by(MONTH, (OCTOBER, 0.086), figure=SHARE, name="share")
        found = self.seen({"column": "share", "of": "last", "comparison": "over", "bound": 0.08}, of)
        self.assertEqual(found, (True, "the last share over 8.0%", "8.6% in October 2026"))
        gone = self.seen({"column": "rate", "comparison": "under", "bound": 1}, of)
        self.assertEqual((gone[0], gone[2]), (False, "there is no figure rate any more"))


class Documents(unittest.TestCase):
    def shown(self, question: str, **further: object) -> Shown:
        kept = Kept(chain=(AskedThen(question=question),), plan={}, reading="", day=OCTOBER)
        part = Part(kind="answer", kept=kept, beside=bool(further.pop("beside", False)))
        return Shown(part, by(NAME, ("<Elm> | */", money("30"))).model_copy(update=further))

    def test_nothing_of_the_data_becomes_part_of_the_page(self) -> None:
        chart = {"data": {"values": [{"label": "</script><script>alert(1)</script>"}]}}
        document = Document("A & <b>", "Told.", (self.shown("q <i>", chart=chart, finding="</section><script>"),))
        html = as_html(document, "var drawn = 1; '</script>'")
        self.assertEqual(html.count("<script"), 3, "the chart's data, the library, and what draws")
        self.assertEqual(html.count("</script>"), 3)
        data = html.partition('type="application/json" id="chart-1">')[2].partition("</script>")[0]
        self.assertEqual(json.loads(data), chart)
        for text in ("<b>", "<i>", "<Elm>"):
            self.assertNotIn(text, html)
        markdown = as_markdown(document)
        self.assertIn("| \\<Elm\\> \\| \\*/ | 30.00 |", markdown)
        compile(as_python(Document('"""\nimport os', "\\", document.parts)), "page", "exec")

    def test_an_answer_stands_beside_one_other(self) -> None:
        parts = [self.shown("a"), self.shown("b", beside=True), self.shown("c", beside=True)]
        self.assertEqual([[s.question for s in row] for row in rows_beside(parts)], [["a", "b"], ["c"]])
        heading = Shown(Part(kind="heading", text="H"))
        self.assertEqual(len(rows_beside([heading, parts[1]])), 2)

    def test_what_could_not_be_worked_says_so_in_every_form(self) -> None:
        part = self.shown("takings").part
        document = Document("Page", "", (Shown(part, problem="There is no column takings."),))
        for text in (as_html(document, ""), as_markdown(document)):
            self.assertIn("There is no column takings.", text)

    def test_a_page_in_a_hundred_words(self) -> None:
        seen = watched(Watch(column="takings", comparison="over", bound=20), self.shown("a").working or self.fail())
        first = replace(self.shown("takings by shop"), since="19 Oct 2026", changed="Elm rose from second to first.")
        parts = [
            Shown(Part(kind="text", text="t")),
            first,
            replace(self.shown("b"), seen=seen),
            self.shown("c"),
            self.shown("d", finding="word " * 90),
        ]
        told = in_short(parts)
        self.assertEqual(
            [(t.place, t.sentence) for t in told],
            [
                (1, "Takings by shop: Elm rose from second to first."),
                (2, "Takings over 20.00: 30.00 in <Elm> | */."),
                (3, "Found."),
            ],
        )
