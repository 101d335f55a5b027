"""Things held against each other: tables that share towns without a table of towns, kinds, measures, definitions."""

from __future__ import annotations

import unittest
from typing import ClassVar

from tests import support

FILES = {
    "practices.csv": "practice,town,vets,opened\nAlder House,Alder,4,2019-03-01\nBirch Row,Birch,2,2020-05-01\n"
    "Birch End,Birch,3,2021-02-01\nCedar Way,Cedar,5,2022-09-01\n",
    "pets_counted.csv": "town,period,sex,dogs,cats\n"
    + "".join(
        f"{town},{first} to {first + 2},{sex},{dogs + (first - 2018) * 10},{cats}\n"
        for town, dogs, cats in (("Alder", 100, 60), ("Birch", 200, 260), ("Cedar", 300, 40), ("Denby", 50, 70))
        for first in (2018, 2019)
        for sex in ("Male", "Female")
    ),
    "visits.csv": "visit_no,visit_date,species,mode,fee,drugs,booked,seen\n"
    "V1,2026-01-05,Dog,By phone,40,10,3,2\nV2,2026-01-06,Cat,Online,20,5,2,2\nV3,2026-01-07,Dog,Online,60,20,4,4\n"
    "V4,2026-02-03,Dog,By phone,80,10,1,0\nV5,2026-02-04,Cat,Online,30,15,2,2\nV6,2026-03-02,Cat,Online,25,5,1,1\n",
}
Rows = list[tuple[object, ...]]
ANSWERS: tuple[tuple[str, Rows], ...] = (
    # two tables that both tell of towns
    ("which towns have no practice", [("Denby",)]),
    (
        "number of practices and total cats by town",
        [("Alder", 1, 240), ("Birch", 2, 1040), ("Cedar", 1, 160), ("Denby", 0, 280)],
    ),
    # periods as they are written
    ("dogs in Alder in 2018 to 2020", [(200,)]),
    ("total dogs in the latest period", [(1380,)]),
    # kinds, measures and numbers against each other
    ("how much more expensive are dog visits than cat visits", [(25.0, 60.0, 35.0)]),
    ("which towns had more cats than dogs in 2018 to 2020", [("Birch",), ("Denby",)]),
    ("profit by species (fee minus drugs)", [("Dog", 140), ("Cat", 50)]),
    ("how many never turned up by mode", [("By phone", 2), ("Online", 0)]),
    # periods kept by what happened in them
    ("months with more than 2 visits", [("2026-01-01", 3)]),
    ("in how many months did we take more than 100 in fees", [(2,)]),
    ("average number of visits per month", [(2.0,)]),
)


class HeldAgainst(support.Asked):
    files = FILES

    def test_answers(self) -> None:
        self.assert_answers(ANSWERS)

    def test_what_a_list_is_to_show_is_shown(self) -> None:
        _, columns, _ = self.asked("list the visits with the date and how they were booked")
        self.assertEqual(set(columns), {"visit_no", "visit_date", "mode"})


class FactsSaidAgain(support.Asked):
    """What is said of a thing on each of its rows is its own once, however many rows there are."""

    files: ClassVar = {
        "readings.csv": "building,type,month,floor_area,kwh\n"
        + "".join(
            f"{name},{kind},2026-{month:02},{area},{area * month}\n"
            for name, kind, area in (("Alder", "Office", 100), ("Birch", "Depot", 300), ("Cedar", "Office", 200))
            for month in (1, 2, 3)
        )
    }

    def test_answers(self) -> None:
        self.assert_answers(
            (
                ("total floor area", [(600,)]),
                ("average floor area", [(200.0,)]),
                ("total floor area by type", [("Depot", 300), ("Office", 300)]),
                ("kwh per m2 by type", [("Depot", 6.0), ("Office", 6.0)]),
                ("kwh per m2 in March", [(3.0,)]),
                ("total kwh", [(3600,)]),
            )
        )


if __name__ == "__main__":
    unittest.main()
