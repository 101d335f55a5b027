"""Scripts as a person would write them: only what is used is read and named, steps follow each other, and they give the answer."""

from __future__ import annotations

import unittest

from gumption.core.checks.twice import rows_agree
from gumption.core.reading.read import QuestionReader
from tests.core.test_random_plans import run_script
from tests.support import DEMO_DAY, tables_for

COSTS = {
    "costs.csv": "Month,Cost centre,Note,Amount\n"
    + "".join(f"2025-0{1 + i % 3}-01,{(1010, 2050, 3070, 4400)[i % 4]},n{i},{10 * i}.50\n" for i in range(24)),
    "class.csv": "Class,Rows\nA,1\nB,2\nC,3\n",
    "rows.csv": "Which,Class\n1,A\n2,B\n3,A\n4,C\n",
    "centres.csv": "Code,Department,Head\n1010,Desk,Ada\n2050,Ward,Bo\n3070,Van,Cy\n4400,Yard,Di\n",
}
ODD = {
    "odd.csv": "Stock list\n\nwhere;what;day;worth;count\n"
    "North;None;05.01.2025;1.200,50;3\nSouth ;tea;06.01.2025;-;4\nNorth;milk;-;310,25;n/a\nEast;007;08.01.2025;12,00;oops\n"
    + "".join(f"West;w{i};{10 + i}.01.2025;{i},50;{i}\n" for i in range(9))
    + "Total;;;1.563,25;\n"
}


class PythonCode(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.opened = tables_for(cls, {**COSTS, **ODD})
        cls.reader = QuestionReader(cls.opened.catalogue)

    def script(self, question: str) -> str:
        """The script of a question's answer, which must give that answer."""
        plan = self.reader.read(question, DEMO_DAY).readings[0].plan
        answered = self.opened.answerer.answer(plan, DEMO_DAY)
        self.assertTrue(rows_agree(run_script(answered.python), answered.rows), answered.python)
        return answered.python

    def test_three_files_and_one_question(self) -> None:
        self.assertEqual(
            self.script("total amount by department"),
            """from pathlib import Path

import pandas as pd

FOLDER = Path('.')  # where the files are

costs = pd.read_csv(FOLDER / 'costs.csv', usecols=['Cost centre', 'Amount'])
centres = pd.read_csv(FOLDER / 'centres.csv', usecols=['Code', 'Department'])

answer = (
    costs
    .merge(centres, how='inner', left_on='Cost centre', right_on='Code', validate='many_to_one')
    .groupby('Department', as_index=False).agg(total_Amount=('Amount', 'sum'))
    .round({'total_Amount': 2})
    .sort_values(['total_Amount', 'Department'], ascending=[False, True])
)
print(answer.to_string(index=False))
""",
        )

    def test_tables_called_like_words_of_python(self) -> None:
        for question in ("number of rows by class", "average of rows in class", "which class has no rows"):
            with self.subTest(question):
                self.script(question)

    def test_only_what_stands_in_the_file_is_named(self) -> None:
        for question in ("total worth by where", "how many rows per what", "average count", "list what and day"):
            with self.subTest(question):
                text = self.script(question)
                self.assertNotIn("#DIV/0!", text)
        plain = self.script("number of costs by month")
        self.assertNotIn("na_values", plain)
        self.assertIn("parse_dates=['Month']", plain)
