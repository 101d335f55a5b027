"""The commands. Those that answer questions need neither server nor database."""

from __future__ import annotations

import argparse
import datetime as dt
import json
import os
import sys
import tempfile
from pathlib import Path
from typing import Any, NoReturn

from gumption.cli.answers import Said, as_line, as_object, ask, work_plan
from gumption.cli.explain import explanation
from gumption.cli.files import BadUsage, Opened, open_files
from gumption.core.code.dialects import DIALECTS
from gumption.core.collecting import collect_seldom
from gumption.core.model.names import plural
from gumption.core.plan.words import plan_words
from gumption.core.present.numbers import column_cells, head
from gumption.core.reading.briefs import Brief, brief_of, may_be_several
from gumption.core.reading.doubts import doubt_of
from gumption.core.reading.read import QuestionReader, Reading
from gumption.engines.limits import Limits

FORMATS = ("text", "json", "csv", "sql", "python", "chart.png")
_MOST_TEXT_ROWS = 40


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        sys.stderr.write(f"{self.prog}: {message}; try {self.prog} --help\n")
        raise SystemExit(2)


def _date(text: str) -> dt.date:
    try:
        return dt.date.fromisoformat(text)
    except ValueError as error:
        raise argparse.ArgumentTypeError(f"“{text}” is no date; write it as 2026-10-31") from error


def parser() -> argparse.ArgumentParser:
    """The commands and their options."""
    top = _Parser(prog="gumption", description="Plain questions of tables, answered with their working shown.")
    commands = top.add_subparsers(dest="command", required=True, metavar="COMMAND", parser_class=_Parser)
    start = commands.add_parser("start", help="serve the application on this machine")
    start.add_argument("--port", type=int, default=8765)
    start.add_argument(
        "--data", default=None, help="folder for the records and tables (default: .data in the repository)"
    )
    start.add_argument(
        "--upload-limit", type=float, default=2.0, metavar="GB", help="the largest file that may be sent (default: 2)"
    )
    start.add_argument(
        "--allow-folder",
        action="append",
        default=[],
        metavar="DIR",
        help="a folder that files may be read from without sending them; may be given again",
    )
    start.add_argument(
        "--allow-inner-addresses", action="store_true", help="let addresses inside the network be fetched from"
    )
    start.add_argument(
        "--host",
        action="append",
        default=[],
        metavar="NAME",
        help="a name besides localhost that people open it by, behind a proxy; may be given again",
    )
    start.add_argument(
        "--allow-frame",
        action="append",
        default=[],
        metavar="ORIGIN",
        help="an origin whose pages may hold Gumption in a frame, such as https://desk.example; may be given again",
    )
    start.add_argument(
        "--feed",
        default=None,
        metavar="ADDRESS",
        help="a feed of series (docs/feed.md); the default is a stand-in with made-up ones, served beside",
    )
    limits = Limits()
    start.add_argument(
        "--memory",
        type=float,
        default=limits.memory_gb,
        metavar="GB",
        help="memory that questions may take together (default: %(default)g)",
    )
    start.add_argument(
        "--disk",
        type=float,
        default=limits.disk_gb,
        metavar="GB",
        help="disk for what does not fit into it (default: %(default)g)",
    )
    start.add_argument(
        "--twice-rows",
        type=int,
        default=limits.twice_rows,
        metavar="ROWS",
        help="rows up to which both workings are done before an answer is shown (default: %(default)s)",
    )
    feed = commands.add_parser("feed", help="serve the stand-in for a feed of series alone")
    feed.add_argument("--port", type=int, default=8780)
    for name, told in (
        ("backup", "write all that a data folder holds to one file, while it is served too"),
        ("restore", "make a data folder of such a file"),
    ):
        keep = commands.add_parser(name, help=told)
        keep.add_argument("file", metavar="FILE.tar")
        keep.add_argument("--data", default=None, help="the data folder (default: .data in the repository)")
    read = commands.add_parser("read", help="show what is made of files, and write them cleaned")
    read.add_argument("files", nargs="+", metavar="FILE")
    read.add_argument("--format", choices=("text", "json"), default="text")
    read.add_argument("--out", default=None, metavar="DIR", help="write every cleaned table into this folder")
    read.add_argument("--out-format", choices=("csv", "parquet"), default="csv")
    one = commands.add_parser("ask", help="answer one question of some files")
    many = commands.add_parser("batch", help="answer a file of questions of some files")
    for command in (one, many):
        command.add_argument("files", nargs="+", metavar="FILE")
        command.add_argument("--as-of", type=_date, default=None, metavar="DATE", help="the day that counts as today")
        command.add_argument("--describe", default=None, metavar="COLUMNS.json", help="what columns mean")
    asked = one.add_mutually_exclusive_group(required=True)
    asked.add_argument("-q", "--question")
    asked.add_argument("--plan", metavar="PLAN.json", help="work a plan (docs/plan-format.md) instead of a question")
    one.add_argument("--format", choices=FORMATS, default="text")
    one.add_argument(
        "--explain",
        action="store_true",
        help="show the pieces, the meanings found and what speaks for each, unanswered",
    )
    one.add_argument("--dialect", choices=DIALECTS, default="duckdb", help="whose SQL --format sql gives")
    many.add_argument("--questions", required=True, metavar="Q.jsonl")
    many.add_argument("--out", required=True, metavar="A.jsonl")
    report = commands.add_parser("report", help="work a saved page, or a brief, over some files and write it out")
    report.add_argument(
        "source", metavar="PAGE.json|BRIEF.md", help="a page saved from the folio, or questions as text"
    )
    report.add_argument("files", nargs="+", metavar="FILE")
    report.add_argument(
        "--out", required=True, metavar="REPORT", help="report.html, .pdf, .xlsx, .md, .ipynb, .py, .sql"
    )
    report.add_argument("--as-of", type=_date, default=None, metavar="DATE", help="the day that counts as today")
    report.add_argument("--describe", default=None, metavar="COLUMNS.json", help="what columns mean")
    test = commands.add_parser("test", help="run every check and test")
    test.add_argument("--only", default=None, metavar="PATTERN", help="tests whose module matches")
    test.add_argument(
        "--long", action="store_true", help="with 5,000 random plans and 20,000 odd strings instead of 300 of each"
    )
    # The launcher begins it: it is no part of the program.
    commands.add_parser("bench", help="measure against yardsticks in the same run; bench --help tells more")
    return top


def main(arguments: list[str] | None = None) -> int:
    """Run a command; its exit code."""
    collect_seldom()
    options = parser().parse_args(arguments)
    try:
        code = _run(options)
        sys.stdout.flush()
        return code
    except BadUsage as error:
        sys.stderr.write(f"gumption: {error}\n")
        return 2
    except BrokenPipeError:
        # Who reads what is written, such as `head`, has read enough; nothing must be written at the end either.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    except OSError as error:
        # Folders that may not be written, and full disks, are for the person to mend.
        where = f"{error.filename}: " if error.filename else ""
        sys.stderr.write(f"gumption: {where}{error.strerror or error}\n")
        return 1


def _run(options: argparse.Namespace) -> int:
    match options.command:
        case "ask":
            return _ask(options)
        case "batch":
            return _batch(options)
        case "read":
            from gumption.cli.read import read_files

            return read_files(options.files, options.format, options.out, options.out_format)
        case "start":
            from gumption.server.start import Serving, serve

            return serve(
                Serving(
                    options.port,
                    options.data,
                    options.upload_limit,
                    tuple(options.allow_folder),
                    options.allow_inner_addresses,
                    tuple(options.host),
                    tuple(options.allow_frame),
                    options.feed,
                    Limits(memory_gb=options.memory, disk_gb=options.disk, twice_rows=options.twice_rows),
                )
            )
        case "feed":
            from gumption.feed.service import serve_feed

            print(f"The feed is at http://127.0.0.1:{options.port}/series  (Ctrl-C stops it)", flush=True)
            serve_feed(options.port)
            return 0
        case "backup" | "restore":
            from gumption.server.start import home
            from gumption.store.keeping import CannotKeep, back_up, restore

            folder = Path(options.data) if options.data else home() / ".data"
            try:
                if options.command == "backup":
                    print(f"{options.file}: {back_up(folder, Path(options.file)) / 1e6:.1f} MB")
                else:
                    restore(Path(options.file), folder)
                    print(f"{folder} is as it was; serve it with: ./gumption start --data {folder}")
            except CannotKeep as error:
                raise BadUsage(str(error)) from error
            return 0
        case "report":
            from gumption.cli.report import write_report

            answers, failed = write_report(
                options.source, options.files, options.out, as_of=options.as_of, describe=options.describe
            )
            print(f"{options.out}: {plural(answers, 'answer')}" + (f", {failed} could not be worked" if failed else ""))
            return 1 if failed else 0
        case "bench":
            raise BadUsage("This is begun by the launcher: ./gumption bench.")
        case _:
            from gumption.cli.test import run_tests

            return run_tests(options.only, long=options.long)


def _ask(options: argparse.Namespace) -> int:
    with tempfile.TemporaryDirectory() as scratch:
        opened = open_files(options.files, options.describe, Path(scratch))
        as_of = options.as_of or dt.date.today()
        if options.explain and options.question:
            print(explanation(QuestionReader(opened.catalogue), options.question, as_of))
            return 0
        if options.plan is not None:
            said = work_plan(opened, options.plan, as_of)
        else:
            reader = QuestionReader(opened.catalogue)
            if may_be_several(options.question):
                brief = brief_of(options.question, reader, as_of)
                if len(brief.tasks) > 1:
                    return _ask_all(opened, reader, brief, as_of, options.format)
            said = ask(opened, reader, options.question, as_of)
        if options.format == "json":
            print(json.dumps(as_object(said), ensure_ascii=False))
            return 0
        if said.answered is None:
            sys.stderr.write(f"{_unanswered(said)}\n")
            return 1
        match options.format:
            case "csv":
                sys.stdout.writelines(opened.answerer.csv(said.answered))
            case "sql":
                print(opened.answerer.code(said.answered.plan, options.dialect))
            case "python":
                print(said.answered.python, end="")
            case "chart.png":
                return _png(said)
            case _:
                print(_text(said))
    return 0


def _ask_all(opened: Opened, reader: QuestionReader, brief: Brief, as_of: dt.date, form: str) -> int:
    """Every question of a text, one after the other."""
    if form not in ("text", "json"):
        raise BadUsage(f"These are {len(brief.tasks)} questions; --format {form} gives the answer of one.")
    earlier: Reading | None = None
    given: list[dict[str, Any]] = []
    for number, task in enumerate(brief.tasks, 1):
        said = ask(opened, reader, task.text, as_of, earlier if task.follows else None)
        earlier = said.reading or earlier
        given.append({"question": task.text, **as_object(said)})
        if form == "text":
            told = _text(said) if said.answered is not None else _unanswered(said)
            print(f"{number}. {task.text}\n{told}\n")
    if form == "json":
        print(json.dumps(given, ensure_ascii=False))
    return 0 if all(g["status"] == "answered" for g in given) else 1


def _png(said: Said) -> int:
    assert said.answered is not None
    if said.answered.chart is None:
        why = said.answered.chart_note or "This answer is best as a number or a table; it has no chart."
        sys.stderr.write(f"gumption: {why}\n")
        return 1
    import vl_convert

    spec = {**said.answered.chart, "background": "white"}
    if spec["width"] == "container":
        spec["width"] = 720
    sys.stdout.buffer.write(vl_convert.vegalite_to_png(spec, scale=2))
    return 0


def _unanswered(said: Said) -> str:
    """Why nothing is answered, and what can be: each with what it comes to where that is one figure."""
    lines = [said.understanding.problem]
    for number, other in enumerate(said.alternatives, 1):
        rows = other["rows"]
        told = f": {', '.join(str(v) for v in rows[0])}" if len(rows) == 1 else f" ({plural(len(rows), 'row')})"
        lines.append(f"  {number}. {other['reading']}{told}")
    return "\n".join(lines)


def _text(said: Said) -> str:
    answered, understanding = said.answered, said.understanding
    assert answered is not None
    fields = [answered.schema[name] for name in answered.columns]
    rows = answered.rows[:_MOST_TEXT_ROWS]
    columns = [column_cells([row[i] for row in rows], field) for i, field in enumerate(fields)]
    cells = [[head(name, field) for name, field in zip(answered.columns, fields, strict=True)]]
    cells += [[text or "" for text in row] for row in zip(*columns, strict=True)]
    widths = [max(len(row[i]) for row in cells) for i in range(len(fields))]
    reading = said.reading.words if said.reading else plan_words(answered.plan)
    lines = [f"Read as: {reading}"]
    if (doubt := doubt_of(understanding)) is not None:
        lines.append(f"Doubted: {doubt.words}")
    lines += ["", answered.finding, ""]
    for number, line in enumerate(cells):
        lines.append(
            "  ".join(
                c.rjust(w) if f.type.is_number else c.ljust(w) for c, w, f in zip(line, widths, fields, strict=True)
            ).rstrip()
        )
        if number == 0:
            lines.append("  ".join("-" * w for w in widths))
    if answered.total > _MOST_TEXT_ROWS:
        lines.append(f"… {answered.total - _MOST_TEXT_ROWS:,} more rows; --format csv gives all of them")
    lines.append("")
    for check in answered.proof.checks:
        mark = {"holds": "ok", "caution": "! ", "stop": "NO"}[check.weight]
        lines.append(f"[{mark}] {check.sentence}{' (' + check.detail + ')' if check.detail else ''}")
    if answered.studied is not None:
        lines += ["", *answered.studied.method]
    for other in said.alternatives:
        lines.append(f"Could also be read as: {other['reading']}")
    return "\n".join(lines)


def _questions(path: str) -> list[dict[str, Any]]:
    try:
        lines = Path(path).read_text(encoding="utf-8").splitlines()
    except OSError as error:
        raise BadUsage(f"{path}: the questions could not be opened ({error.strerror}).") from error
    found = []
    for number, line in enumerate(lines, 1):
        if not line.strip():
            continue
        try:
            question = json.loads(line)
            question["id"], question["ask"]
        except (ValueError, KeyError, TypeError) as error:
            raise BadUsage(f"{path}, line {number}: each line must be an object with “id” and “ask”.") from error
        found.append(question)
    return found


def _batch(options: argparse.Namespace) -> int:
    questions = _questions(options.questions)
    try:
        target = Path(options.out).open("w", encoding="utf-8")  # noqa: SIM115 (closed below, with the scratch folder)
    except OSError as error:
        raise BadUsage(f"{options.out}: cannot be written ({error.strerror}).") from error
    with target, tempfile.TemporaryDirectory() as scratch:
        opened = open_files(options.files, options.describe, Path(scratch))
        reader = QuestionReader(opened.catalogue)
        readings: dict[str, Reading | None] = {}
        for question in questions:
            earlier = readings.get(question.get("after", ""))
            said = ask(opened, reader, question["ask"], options.as_of or dt.date.today(), earlier)
            readings[question["id"]] = said.reading
            target.write(json.dumps(as_line(question["id"], said), ensure_ascii=False) + "\n")
    return 0
