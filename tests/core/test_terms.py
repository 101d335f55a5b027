"""The house's own words: each means what it was said to mean, wherever it stands, and what else words could mean."""

from __future__ import annotations

import unittest

from gumption.core.model.term import Term
from gumption.core.reading.read import Understanding
from gumption.core.reading.rebinding import options
from gumption.core.reading.terms import Terms
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, demo

HOUSE = (
    Term(words=("takings", "gross income"), table="visits", column="cost"),
    Term(words=("surplus",), text="fee minus cost"),
    Term(words=("long wait", "slow visit"), text="a visit whose wait is over 40 minutes"),
    Term(words=("patients",), table="animals"),
    Term(words=("of late",), text="in the last 90 days"),
    Term(words=("the hub",), table="clinics", column="clinic", value="Millbeck"),
    Term(words=("wibble",)),
    Term(words=("passport",), text="species, breed and weight"),
)


def read(question: str, *own: Term) -> Understanding:
    opened, reader = demo()
    return chosen(reader.read(question, DEMO_DAY, terms=own), opened.answerer)


class HouseWords(unittest.TestCase):
    def setUp(self) -> None:
        self.addCleanup(setattr, demo()[1], "terms", Terms())
        demo()[1].terms = Terms(HOUSE)

    def test_each_is_read_as_what_it_means(self) -> None:
        for question, same in (
            ("takings by clinic", "total cost by clinic"),
            ("average gross income per vet", "average cost per vet"),
            ("top 5 vets by surplus", "top 5 vets by fee minus cost"),
            ("how many long waits last month", "how many visits with wait over 40 minutes last month"),
            ("slow visits by month", "number of visits with wait over 40 minutes by month"),
            ("patients by species", "number of animals by species"),
            ("fee of late by clinic", "fee in the last 90 days by clinic"),
            ("fee at the hub by month", "fee at Millbeck clinic by month"),
            ("wibble visits by clinic", "visits by clinic"),
        ):
            with self.subTest(question):
                found, plain = read(question), read(same)
                self.assertEqual(found.readings[0].plan, plain.readings[0].plan)
                self.assertEqual(found.unread, ())

    def test_a_set_of_columns_stands_beside_what_is_listed(self) -> None:
        for question, words in (
            ("passport", "the animals with species, breed and weight kg"),
            ("show the passport of dogs", "the animals with species, breed and weight kg, where species is Dog"),
            (
                "animals over 40 kg with passport",
                "the animals with species, breed and weight kg, where weight kg is over 40",
            ),
        ):
            with self.subTest(question):
                self.assertEqual((read(question).readings[0].words, read(question).unread), (words, ()))

    def test_a_measure_is_called_by_its_word_in_the_answer(self) -> None:
        opened, _ = demo()
        answered = opened.answerer.answer(read("surplus by clinic").readings[0].plan, DEMO_DAY)
        self.assertIn("total_surplus", answered.columns)

    def test_the_gloss_says_what_it_means(self) -> None:
        question = "how many long waits at the hub, wibble"
        found = {question[g.start : g.end]: g.note for g in read(question).readings[0].glosses}
        self.assertEqual(found["long waits"], "a visit whose wait is over 40 minutes")
        self.assertEqual(found["the hub"], "clinics.clinic = Millbeck")
        self.assertEqual(found["wibble"], "left out")

    def test_a_meaning_said_for_one_question_goes_before(self) -> None:
        own = Term(words=("takings",), table="supplies", column="amount")
        self.assertIn("supplies.amount", {g.note for g in read("takings by clinic", own).readings[0].glosses})
        self.assertEqual(read("takings by clinic").readings[0].terms, (HOUSE[0],))

    def test_a_word_may_be_said_by_another(self) -> None:
        loop = (Term(words=("fine",), text="grand"), Term(words=("grand",), text="fine"))
        demo()[1].terms = Terms((*HOUSE, *loop, Term(words=("good visit",), text="surplus over 50")))
        plain = read("how many visits with fee minus cost over 50 last month")
        self.assertEqual(read("how many good visits last month").readings[0].plan, plain.readings[0].plan)
        self.assertEqual(read("fine by clinic").status, "declined")

    def test_a_meaning_that_says_nothing_is_refused(self) -> None:
        reader = demo()[1]
        for term in (
            Term(words=("x",), table="visit", column="cost"),
            Term(words=("x",), table="visits", column="price"),
            Term(words=("x",), text="the frobnication of quux"),
            Term(words=("?",), table="visits"),
        ):
            with self.subTest(term.meaning):
                self.assertNotEqual(reader.problem_of(term, DEMO_DAY), "")
        self.assertEqual([reader.problem_of(t, DEMO_DAY) for t in HOUSE], [""] * len(HOUSE))


class OtherMeanings(unittest.TestCase):
    def offered(self, question: str, words: str) -> list[str]:
        start = question.index(words)
        reading = read(question).readings[0]
        found = options(demo()[1], question, start, start + len(words), DEMO_DAY, reading)
        return [o.term.meaning for o in found]

    def test_what_else_there_is(self) -> None:
        self.assertEqual(self.offered("which vet was unhappiest last year", "unhappiest")[0], "vets.happiness")
        self.assertIn("number of visits", self.offered("footfall by month", "footfall"))
        self.assertIn("median", self.offered("average wait by clinic", "average"))
        self.assertIn("owners.town = Millbeck", self.offered("visits at Millbeck", "Millbeck"))
        self.assertIn("owners", self.offered("how many animals in Millbeck", "animals"))

    def test_where_nothing_is_read_the_main_rows_and_figures_are_offered(self) -> None:
        question = "generosity by wibble"
        found = options(demo()[1], question, 0, len("generosity"), DEMO_DAY, None)
        self.assertEqual([o.term.meaning for o in found][:2], ["number of visits", "visits.fee_net"])

    def test_leaving_out_is_always_the_last(self) -> None:
        for words in ("footfall", "by", "month"):
            self.assertEqual(self.offered("footfall by month", words)[-1], "left out")

    def test_what_it_means_now_is_not_offered(self) -> None:
        self.assertNotIn("visits.wait_min", self.offered("average wait by clinic", "wait"))


if __name__ == "__main__":
    unittest.main()
