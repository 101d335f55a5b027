"""Tables pointed at in several roles, the first row of each thing, figures as offices publish them, and what gaps mean."""

from __future__ import annotations

import datetime as dt
import unittest

from gumption.core.reading.tokens import tokenise
from gumption.engines.choosing import chosen
from tests import support

DAY = dt.date(2026, 9, 30)
JOURNEYS = {
    "stations.csv": "code,station,county\nAL,Alder,North\nBR,Birch,North\nCE,Cedar,South\nDE,Denby,South\n",
    "riders.csv": "rider_no,rider,born\nR1,Ada Pike,1950-02-01\nR2,Ben Holt,2001-03-04\nR3,Cleo Frost,2017-05-06\n",
    "trips.csv": "trip_no,rider_no,travelled,origin,destination,fare,sold_by\n"
    "1,R1,2025-01-05,AL,CE,10,desk\n2,R1,2025-03-05,AL,DE,20,\n3,R2,2025-03-09,BR,CE,30,desk\n"
    "4,R2,2026-01-05,AL,CE,40,\n5,R3,2026-02-05,CE,AL,50,\n6,R3,2026-02-06,CE,BR,60,desk\n",
}
TOLD = {"trips.csv": {"sold_by": "where the ticket was bought, empty if sold online"}}
FIGURES = {
    "homes.csv": "Table 2: Homes begun by area\nArea code,Area,2022/23,2023/24,2024/25\n"
    'A,All areas,"3,150",1500,2120\nA1,Alder,"1,900",300,[x]\nA2,Birch,"1,000",400,690\n'
    "A3,Cedar,110,350,710\nA4,Denby,140,450,720\n",
    "claimants.csv": "date,area,sex,age,measure,value\n"
    + "".join(
        f"{month} 2025,{area},{sex},{age},Claimant count,{base * (2 if sex == 'Total' else 1) * (2 if age == 'All ages 16+' else 1)}\n"
        for month in ("January", "April")
        for area, base in (("Alder", 10), ("Birch", 30))
        for sex in ("Male", "Female", "Total")
        for age in ("Aged 16-24", "Aged 25+", "All ages 16+")
    ),
    "power.csv": "Year,Quarter,Fuel,Output GWh\n"
    + "".join(
        f"{year},Q{quarter},{fuel},{quarter * 10 + year - 2020 + extra}\n"
        for year in (2023, 2024)
        for quarter in (1, 2, 3, 4)
        for fuel, extra in (("Wind", 0), ("Gas", 100))
    ),
    "stones.csv": "weight,cut,paid\n1.5,Fine,300\n0.5,Fine,90\n2.0,Rough,240\n1.0,Rough,80\n",
}
DESCRIBED = {"stones.csv": {"weight": "weight of the stone in carats", "paid": "price paid for the stone in pounds"}}
Rows = list[tuple[object, ...]]
ON_JOURNEYS: tuple[tuple[str, Rows], ...] = (
    ("how many trips from Alder to Cedar", [(2,)]),
    ("trips by destination station", [("Cedar", 3), ("Alder", 1), ("Birch", 1), ("Denby", 1)]),
    ("how many trips sold online", [(3,)]),
    ("how many riders had their first trip in 2025", [(2,)]),
    ("how many riders by number of trips", [(2, 3)]),
    ("how many children under 12", [(1,)]),
    ("how many riders travelled more than once", [(3,)]),
    ("where does Cleo Frost rank by total fare", [("Cleo Frost", 110, 1)]),
    ("trips by month in 2026 and the change on the month before", [("2026-01-01", 1, 1), ("2026-02-01", 2, 1)]),
)
ON_FIGURES: tuple[tuple[str, Rows], ...] = (
    ("homes begun in Alder in 2022/23", [(1900,)]),
    ("total homes begun in 2024/25", [(2120,)]),
    ("homes by area in 2023/24", [("Denby", 450), ("Birch", 400), ("Cedar", 350), ("Alder", 300)]),
    ("how many claimants were there in April 2025", [(160,)]),
    ("claimants by sex in January 2025", [("Female", 80), ("Male", 80)]),
    ("wind output in Q3 2024", [(34,)]),
    ("how many stones are there", [(4,)]),
    ("heaviest stone", [(2.0,)]),
)


class Journeys(support.Asked):
    files, meant, day = JOURNEYS, TOLD, DAY

    def test_answers(self) -> None:
        self.assert_answers(ON_JOURNEYS)

    def test_every_column_that_is_listed_is_shown(self) -> None:
        _, columns, rows = self.asked("trips with the rider, the fare and the destination, highest fare first")
        self.assertTrue({"fare", "destination"} <= set(columns), columns)
        self.assertEqual(max(v for v in rows[0] if isinstance(v, int)), 60)

    def test_what_was_to_be_averaged_and_is_not_there_is_no_other_number(self) -> None:
        found = chosen(self.reader.read("average punctuality per county", DAY), self.opened.answerer)
        self.assertNotEqual((found.status, found.doubt), ("answered", False))


class Figures(support.Asked):
    files, meant, day = FIGURES, DESCRIBED, DAY

    def test_answers(self) -> None:
        self.assert_answers(ON_FIGURES)

    def test_a_mark_among_numbers_is_a_number_that_is_not_told(self) -> None:
        self.assertTrue(all(c.type.is_number for c in self.opened.catalogue.table("homes").columns[2:]))


class Words(unittest.TestCase):
    def test_a_hyphen_only_joins(self) -> None:
        for typed, parts in (
            ("two-bed", ["two", "bed"]),
            ("cost-wise", ["cost", "wise"]),
            ("lowest-paid", ["lowest", "paid"]),
            ("two-thirds", ["two-thirds"]),
            ("no-show", ["no-show"]),
        ):
            self.assertEqual([t.lower for t in tokenise(typed)], parts)


if __name__ == "__main__":
    unittest.main()
