"""The commands as a person runs them."""

from __future__ import annotations

import contextlib
import csv
import io
import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from gumption.cli.main import main
from tests.support import DEMO, HOME

SUPPLIES, CLINICS = str(DEMO / "data" / "supplies.csv"), str(DEMO / "data" / "clinics.csv")


def run(*arguments: str) -> subprocess.CompletedProcess[bytes]:
    return subprocess.run(
        [sys.executable, "-m", "gumption", *arguments],
        cwd=HOME,
        capture_output=True,
        check=False,
        env={"PYTHONPATH": str(HOME / "src"), "PATH": "/usr/bin:/bin"},
    )


def run_here(*arguments: str) -> tuple[int, str, str]:
    """Exit code, output and errors of a command run in this process."""
    out, errors = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(errors):
        try:
            code = main(list(arguments))
        except SystemExit as leaving:
            code = int(leaving.code or 0)
    return code, out.getvalue(), errors.getvalue()


class Read(unittest.TestCase):
    def test_what_is_made_of_files(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            messy = Path(folder) / "messy.csv"
            messy.write_text(
                "Sales\nshop;on;betrag;took\nA;05.03.2024;1.200,50;1:30:00\nB;-;3,25;30:00:00\nSumme;;1.203,75;\n"
            )
            bad = Path(folder) / "bad.xlsx"
            bad.write_bytes(b"PK\x03\x04junk")
            out = Path(folder) / "out"
            code, text, _ = run_here("read", str(messy), str(bad), "--format", "json", "--out", str(out))
            whole = json.loads(text)
            self.assertEqual((code, [e["file"] for e in whole["errors"]]), (0, [str(bad)]))
            table = whole["tables"][0]
            self.assertEqual(
                (table["name"], table["source"], table["sheet"], table["rows"]), ("messy", "messy.csv", None, 2)
            )
            columns = [(c["name"], c["type"], c["missing"]) for c in table["columns"]]
            self.assertEqual(
                columns, [("shop", "text", 0), ("on", "date", 1), ("betrag", "decimal", 0), ("took", "duration", 0)]
            )
            self.assertTrue(any("Summe" in n["act"] and n["rows"] == 1 for n in table["notes"]))
            written = (out / "messy.csv").read_text().splitlines()
            self.assertEqual(written[1:], ["A,2024-03-05,1200.50,01:30:00", "B,,3.25,30:00:00"])
            run_here("read", str(messy), "--out", str(out), "--out-format", "parquet")
            self.assertTrue((out / "messy.parquet").exists())
            self.assertEqual(run_here("read", str(bad))[0], 1)
            self.assertIn("broken", run_here("read", str(bad))[2])
            self.assertIn("messy: 2 rows, 4 columns", run_here("read", str(messy))[1])


class Ask(unittest.TestCase):
    def test_formats(self) -> None:
        question = (
            "ask",
            SUPPLIES,
            CLINICS,
            "--as-of",
            "2026-10-31",
            "-q",
            "Top three clinics by number of supplies in 2025",
        )
        whole = json.loads(run_here(*question, "--format", "json")[1])
        wanted = {
            "status",
            "reading",
            "columns",
            "rows",
            "unread",
            "doubt",
            "alternatives",
            "sql",
            "python",
            "checks",
            "chart",
            "seconds",
        }
        self.assertLessEqual(wanted, set(whole))
        self.assertEqual(
            (whole["status"], whole["columns"], len(whole["rows"])), ("answered", ["clinic", "supplies"], 3)
        )
        table = list(csv.reader(io.StringIO(run_here(*question, "--format", "csv")[1])))
        self.assertEqual(table[1], [str(v) for v in whole["rows"][0]])
        self.assertIn("GROUP BY", run_here(*question, "--format", "sql")[1])
        self.assertTrue(run(*question, "--format", "chart.png").stdout.startswith(b"\x89PNG"))
        text = run_here(*question)[1]
        self.assertIn("[ok] Computed twice, both ways agree", text)
        self.assertIn("has the most supplies", text)

    def test_bad_use_gives_one_line_and_code_2(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            empty = Path(folder) / "empty.csv"
            empty.touch()
            cases = {
                "no such file": ("ask", "nowhere.csv", "-q", "how many"),
                "empty file": ("ask", str(empty), "-q", "how many"),
                "no question": ("ask", SUPPLIES),
                "a day that is none": ("ask", SUPPLIES, "-q", "x", "--as-of", "tomorrow"),
                "unknown format": ("ask", SUPPLIES, "-q", "x", "--format", "pdf"),
                "no such questions": ("batch", CLINICS, "--questions", "none.jsonl", "--out", str(Path(folder) / "a")),
                "no command": (),
            }
            for name, arguments in cases.items():
                with self.subTest(name):
                    code, out, errors = run_here(*arguments)
                    self.assertEqual((code, out), (2, ""), errors)
                    self.assertEqual(len(errors.strip().splitlines()), 1, errors)

    def test_what_cannot_be_read_is_said_on_stderr(self) -> None:
        code, out, errors = run_here("ask", CLINICS, "-q", "sing me a sea shanty")
        self.assertEqual((code, out), (1, ""))
        self.assertTrue(errors)

    def test_a_folder_that_takes_no_file_is_said_in_one_line(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "mariadb").mkdir()
            (Path(folder) / "full").touch()
            target = Path(folder) / "full" / "monday.tar"
            code, out, errors = run_here("backup", str(target), "--data", folder)
            self.assertEqual((code, out, len(errors.splitlines())), (1, "", 1), errors)
            self.assertIn(str(target.parent), errors)

    def test_who_reads_on_may_have_read_enough(self) -> None:
        asked = [sys.executable, "-m", "gumption", "ask", CLINICS, "-q", "list the clinics"]
        begun = subprocess.Popen(
            asked,
            cwd=HOME,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            env={"PYTHONPATH": str(HOME / "src"), "PATH": "/usr/bin:/bin"},
        )
        assert begun.stdout is not None and begun.stderr is not None
        begun.stdout.close()
        errors = begun.stderr.read()
        begun.stderr.close()
        self.assertEqual((begun.wait(), errors), (0, b""))

    def test_several_questions_in_one(self) -> None:
        text = "how many clinics are there? How many of them are in the North?"
        code, out, _ = run_here("ask", CLINICS, "-q", text)
        self.assertEqual(code, 0)
        self.assertIn("1. how many clinics are there?", out)
        self.assertIn("2. How many of them are in the North?", out)
        code, _, errors = run_here("ask", CLINICS, "-q", text, "--format", "csv")
        self.assertEqual(code, 2)
        self.assertIn("These are 2 questions", errors)


class Batch(unittest.TestCase):
    def test_lines_and_follow_ups(self) -> None:
        questions = [
            {"id": "a", "ask": "number of clinics by region"},
            {"id": "b", "ask": "only the North", "after": "a"},
            {"id": "c", "ask": "sing me a sea shanty"},
        ]
        with tempfile.TemporaryDirectory() as folder:
            asked, answered = Path(folder) / "q.jsonl", Path(folder) / "a.jsonl"
            asked.write_text("\n".join(json.dumps(q) for q in questions))
            self.assertEqual(run_here("batch", CLINICS, "--questions", str(asked), "--out", str(answered))[0], 0)
            found = {line["id"]: line for line in map(json.loads, answered.read_text().splitlines())}
        self.assertEqual(
            set(found["a"]),
            {"id", "status", "reading", "columns", "rows", "unread", "doubt", "alternatives", "seconds"},
        )
        self.assertEqual(found["b"]["rows"], [["North", 3]])
        self.assertEqual(found["c"]["status"], "declined")


class Plans(unittest.TestCase):
    def test_a_plan_in_a_file_is_worked_and_its_faults_are_told(self) -> None:
        group = {"step": "group", "by": ["region"], "aggregates": [{"name": "n", "function": "count"}]}
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "plan.json"
            path.write_text(json.dumps({"version": 1, "steps": [{"step": "take", "table": "clinics"}, group]}))
            code, text, _ = run_here("ask", CLINICS, "--plan", str(path), "--format", "csv")
            self.assertEqual((code, text.splitlines()[0], len(text.splitlines())), (0, "region,n", 5))
            sql = run_here("ask", CLINICS, "--plan", str(path), "--format", "sql", "--dialect", "mariadb")[1]
            self.assertIn("GROUP BY", sql)
            path.write_text(json.dumps({"steps": [{"step": "take", "table": "clinics"}, {**group, "by": ["place"]}]}))
            code, _, errors = run_here("ask", CLINICS, "--plan", str(path))
            self.assertEqual(code, 2)
            self.assertIn("step 2: there is no column place; there are clinic_id", errors)
            self.assertEqual(run_here("ask", CLINICS, "--plan", str(path), "-q", "how many clinics")[0], 2)


class Report(unittest.TestCase):
    BRIEF = "# Supplies in stock\n\n## How many\n- how many supplies are there\n- what is the airspeed of a swallow\n- kind regards to the yard\n"

    def test_a_brief_and_a_saved_page_are_written_out(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            brief, report, page = (Path(folder) / name for name in ("brief.md", "report.md", "page.json"))
            brief.write_text(self.BRIEF)
            told = run_here("report", str(brief), SUPPLIES, "--as-of", "2026-10-31", "--out", str(report))
            self.assertEqual((told[0], "2 answers, 1 could not be worked" in told[1]), (1, True), told)
            text = report.read_text()
            for part in (
                "# Supplies in stock",
                "## How many",
                "The number of supplies is",
                "**Not worked:**",
                "Not read as questions: kind regards",
            ):
                self.assertIn(part, text)
            brief.write_text(self.BRIEF.partition("- what")[0])
            self.assertEqual(run_here("report", str(brief), SUPPLIES, "--out", str(page))[0], 0)
            again = Path(folder) / "again.html"
            self.assertEqual(run_here("report", str(page), SUPPLIES, "--out", str(again))[0], 0)
            self.assertIn("The number of supplies is", again.read_text())
            self.assertEqual(
                sorted(p.name for p in Path(folder).iterdir()), ["again.html", "brief.md", "page.json", "report.md"]
            )

    def test_bad_use_is_said_in_one_line(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            broken = Path(folder) / "broken.json"
            broken.write_text("{}")
            for source, out, told in (
                (str(broken), "r.html", "no saved page"),
                ("nowhere.md", "r.html", "could not be opened"),
                (str(broken), "r.docx", "a report ends in .html"),
            ):
                code, _, errors = run_here("report", source, SUPPLIES, "--out", str(Path(folder) / out))
                self.assertEqual((code, told in errors, errors.count("\n")), (2, True, 1), errors)
