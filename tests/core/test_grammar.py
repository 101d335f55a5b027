"""The grammar by itself: every rule's examples, and that nothing that is typed can break a reading."""

from __future__ import annotations

import datetime as dt
import inspect
import random
import time
import unittest
import unittest.mock
from pathlib import Path
from tempfile import TemporaryDirectory

from gumption.core.reading import lexicon
from gumption.core.reading.assemble import chart_of
from gumption.core.reading.grammar import compiled
from gumption.core.reading.links import Linker
from gumption.core.reading.read import QuestionReader
from gumption.core.reading.rules import FAMILIES, FOLLOWING, GRAMMAR, follow_ups
from gumption.core.reading.tokens import tokenise
from tests.support import DEMO_DAY, demo, opened_from
from tools.bench.names import names_known

FILES = {
    "clinics.csv": "clinic_id,clinic,town,budget\nC1,Alder House,Alder,100\nC2,Birch Row,Birch,40.50\nC3,Cedar End,Cedar,90\n",
    "owners.csv": (
        "owner_id,owner_name,joined,last_seen,heard_of\nO1,Ada Finch,2023-05-01,2025-01-05,friend\n"
        "O2,Bo Marsh,2024-01-05,2025-02-06,friend\nO3,Cy Reed,2024-02-11,2024-05-02,poster\n"
    ),
    "animals.csv": "animal_id,pet_name,species,breed,owner_id\nA1,Rex Roe,Dog,Collie,O1\nA2,Tib Tan,Cat,,O2\nA3,Dot Day,Dog,Boxer,O2\n",
    "crew.csv": "crew_no,crew_name,born,boss_no,wage,hired\nK1,Ann Bo,1980-02-03,,31.5,2020-01-02\nK2,Ben Cor,1985-03-04,K1,22.0,2021-03-04\nK3,Cal Dun,1990-04-05,K1,25.5,2021-07-04\nK4,Dee Eve,1991-05-06,K2,19.0,2022-05-06\n",
    "replies.csv": "reply,q1,q2,q3,q4\nR1,1,2,3,5\nR2,5,4,3,1\nR3,2,5,1,4\nR4,4,1,5,2\nR5,3,3,,3\n",
    "places.csv": "place_no,place,level,within,people\nL1,Ost,country,,900\nL2,Ost North,province,L1,400\nL3,Ost South,province,L1,500\nL4,Wes,country,,700\n",
    "gauges.csv": "gauge_no,gauge,low_limit,high_limit\nG1,17.5,10,20\nG2,21.5,10,20\nG3,9.25,10,20\n",
    "wards.csv": "ward,age_0_15,age_16_64,age_65_plus\nNorth,210,640,150\nSouth,180,700,220\n",
    "bills.csv": "bill_no,animal_id,billed_on,amount_due,amount_paid\n1,A1,2025-01-05,80.5,80.5\n2,A2,2025-02-06,60.25,20\n",
    "visits.csv": (
        "visit_id,visit_date,opened,closed,due,start,end,clinic_id,animal_id,fee,cost,amount,extras,rating,wait_minutes,"
        "seats,units,quantity,price,weight,attended,vaccinated,age,country,sold,receipt_no,seen,shots\n"
        "V1,2025-01-05,2025-01-01,2025-01-06,2025-01-08,09:00,10:30,C1,A1,100.50,40.25,90.10,5.5,4.2,12,3,40,2,9.75,20.5,yes,no,31,France,12,501,8,0\n"
        "V2,2025-02-06,2025-02-01,,2025-02-03,09:15,10:00,C2,A2,50.25,20.75,45.20,2.5,3.1,35,2,55,5,3.25,12.5,no,no,44,Spain,9,501,9,2\n"
        "V3,2025-03-07,2025-03-05,2025-03-09,2025-03-08,18:30,19:00,C1,A3,70.75,30.50,66.30,1.5,,50,5,20,7,4.50,,yes,yes,27,France,31,502,20,1\n"
        "V4,2026-01-08,2026-01-02,2026-01-20,2026-01-10,11:00,11:45,C3,A1,80.00,33.10,71.40,0.5,4.8,61,1,33,3,6.25,33.5,yes,yes,52,Italy,17,503,11,0\n"
    ),
}
DAY = dt.date(2026, 10, 31)


class Examples(unittest.TestCase):
    def test_every_rule_builds_on_its_examples(self) -> None:
        """Each rule stands with wordings that it reads, which are read here over a tiny schema."""
        with TemporaryDirectory() as scratch:
            _, reader = opened_from(Path(scratch), FILES)
        linker = Linker(reader.vocabulary, DAY)
        missed = []
        for family, rules in {**FAMILIES, "follow_ups": follow_ups.RULES}.items():
            for rule in rules:
                self.assertTrue(rule.examples, f"{family}: {rule.pattern} has no example")
                for example in rule.examples:
                    tokens = reader.mended(tokenise(example))[0]
                    grammar = FOLLOWING if family == "follow_ups" else GRAMMAR
                    edges = (
                        e for found in chart_of(tokens, linker.edges(tokens), grammar).edges.values() for e in found
                    )
                    # Another rule may build the same of the same words.
                    whole = (0, len(tokens))
                    if not any(
                        e.category == rule.builds and (e.rule == rule.pattern or (e.start, e.end) == whole)
                        for e in edges
                    ):
                        missed.append(f"{family}: {rule.builds} <- {rule.pattern}: “{example}”")
        self.maxDiff = None
        self.assertEqual(missed, [])

    def test_every_rule_takes_what_its_pattern_gives(self) -> None:
        """A rule with too few places for one of its options would end the reading of whole questions."""
        for family, rules in {**FAMILIES, "follow_ups": follow_ups.RULES}.items():
            for rule in rules:
                for given in {sum(e.category is not None for e in c.elements) for c in compiled(rule)}:
                    with self.subTest(f"{family}: {rule.builds} <- {rule.pattern}"):
                        inspect.signature(rule.build).bind(*[None] * given)


class OddInput(unittest.TestCase):
    def test_nothing_typed_breaks_or_hangs_a_reading(self) -> None:
        """Seeded strings of the demo's words, operating words, signs and rubbish, some of them as follow-ups."""
        _, reader = demo()
        chance = random.Random(11)
        words = [w for phrase in lexicon.phrases() for w in phrase]
        words += list(reader.vocabulary.known)[:400] + [str(n) for n in range(0, 3000, 37)]
        words += [
            "%",
            "-",
            "£5",
            "2025-13-40",
            "'",
            "“x”",
            "\u202e",
            "🐕",
            "€",
            "0",
            "1e9",
            "q9",
            "31 February",
            "''",
            "(((",
            "\x00",
        ]
        earlier = None
        for _ in range(300):
            question = " ".join(chance.choice(words) for _ in range(chance.randrange(1, 14)))
            if chance.random() < 0.15:
                question = "".join(chr(chance.randrange(1, 0x2FFF)) for _ in range(chance.randrange(1, 40)))
            with self.subTest(question):
                start = time.perf_counter()
                found = reader.read(question, DEMO_DAY, earlier if chance.random() < 0.5 else None)
                self.assertLess(time.perf_counter() - start, 5)
                self.assertNotIn("Something went wrong", found.problem)
                self.assertTrue(found.readings or found.problem)
                earlier = found.readings[0] if found.readings else None

    def test_a_reader_without_tables_says_so(self) -> None:
        reader = QuestionReader(demo()[0].catalogue.model_copy(update={"tables": (), "relationships": ()}))
        self.assertIn("no table", reader.read("how many visits", DEMO_DAY).problem)


class Names(unittest.TestCase):
    def test_the_reader_knows_no_name_of_any_data(self) -> None:
        """`gumption bench --names` holds the reader against packs; here it is held against the demo."""
        self.assertEqual(names_known(demo()[0].catalogue), {})

    def test_a_name_that_is_known_is_found(self) -> None:
        with TemporaryDirectory() as scratch:
            opened, _ = opened_from(Path(scratch), {"odd.csv": "region,not_paid_xq\n" + "Garth,1\nLaceby,2\n" * 5})
        known = {"laceby": "rules.py", "not_paid_xq": "links.py", "month of year": "times.py"}
        with unittest.mock.patch("tools.bench.names.known_texts", lambda: known):
            self.assertEqual(set(names_known(opened.catalogue)), {"Laceby", "not_paid_xq"})
