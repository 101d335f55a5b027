"""The bank of wordings, filled from the tables of any files: the share that is understood, by family.

A wording is understood where the reading's answer is that of one of the meanings the bank gives; both are worked over the
tables' own rows.
"""

from __future__ import annotations

import collections
import dataclasses
import datetime as dt
import itertools
import json
import logging
import os
import random
import re
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial
from pathlib import Path

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Type, Value
from gumption.core.plan.fields import PlanError
from gumption.core.reading import meaning as m
from gumption.core.reading.briefs import brief_of, may_be_several
from gumption.core.reading.flow import CannotPlan
from gumption.core.reading.judgement import signs
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.read import QuestionReader, Reading, Understanding
from gumption.engines.answering import Answerer
from gumption.engines.choosing import chosen, says_nothing
from gumption.engines.errors import CannotAnswer
from tools.bench.packs import keep, opened_pack
from tools.bench.wordings_edits import Edited, slots_before, steps_of
from tools.bench.wordings_filling import Filler
from tools.bench.wordings_meanings import Meanings
from tools.bench.wordings_notation import Call, Infix, Node, NotWritten, parsed

TRIES = 5
"""Fillings that are tried until a meaning has an answer that says something."""

_BOTH = re.compile(r"Between\((.+), \{cat\} = \{value2?\}, \{cat\} = \{value2?\}, both\)")

_OF_A_TABLE = re.compile(r"\{(?!num|n\}|year|month|day)")

Rows = tuple[tuple[Value, ...], ...]


@dataclass(frozen=True)
class Verdict:
    """What became of one wording over one table."""

    family: str
    outcome: str
    """understood, misread, declined, unsaid (no meaning of ours), unfit (no filling)."""
    say: str = ""
    means: str = ""
    reading: str = ""
    doubt: bool = False
    signs: tuple[tuple[str, float], ...] = ()
    """What tells how sure the first reading is, and with it `right`, whether it was."""
    right: bool = False


def _known(value: Value) -> object:
    if isinstance(value, bool):
        return float(value)
    if hasattr(value, "__float__"):
        return float(f"{float(value):.6g}")  # type: ignore[arg-type]
    return str(value)[:10] if isinstance(value, dt.datetime) else str(value)


def same_table(gold: Rows, got: Rows) -> bool:
    """True where the second table holds every column of the first, row for row, in any order."""
    if len(gold) != len(got) or not gold:
        return len(gold) == len(got)
    wanted = [[_known(v) for v in column] for column in zip(*gold, strict=True)]
    held = [[_known(v) for v in column] for column in zip(*got, strict=True)]
    counted = [collections.Counter(c) for c in held]
    fits: list[list[tuple[int, list[object]]]] = []
    for column in wanted:
        scaled = [column, *(other for by in (100, 0.01) if (other := _scaled(column, by)) != column)]
        fits.append([(i, w) for w in scaled for i, c in enumerate(counted) if c == collections.Counter(w)])
    for choice in itertools.islice(itertools.product(*fits), 50):
        rows = collections.Counter(zip(*(w for _, w in choice), strict=True))
        if collections.Counter(zip(*(held[i] for i, _ in choice), strict=True)) == rows:
            return True
    return False


def _scaled(column: list[object], by: float) -> list[object]:
    """A share as a percentage, or a percentage as a share."""
    if not all(isinstance(v, float) or v == "None" for v in column):
        return column
    return [float(f"{v * by:.6g}") if isinstance(v, float) else v for v in column]


@dataclass(frozen=True)
class Gold:
    """The answer of a meaning; where its limit cuts through rows that are level, all of those it may have kept."""

    rows: Rows
    level: Rows = ()

    def is_told_by(self, got: Rows) -> bool:
        if same_table(self.rows, got):
            return True
        told = [{*map(_known, row)} for row in got]
        among = [row for row in self.level if any({*map(_known, row)} <= one for one in told)]
        return len(among) == len(self.rows) and same_table(tuple(among), got)


class Bank:
    """The wordings over the tables of one workspace."""

    def __init__(self, catalogue: Catalogue, answerer: Answerer, day: dt.date) -> None:
        self.reader = QuestionReader(catalogue)
        self.catalogue, self.answerer, self.day = self.reader.known, answerer, day
        assert self.reader.nouns is not None
        self.nouns = self.reader.nouns
        self.fillers = [Filler(self.nouns, t, day) for t in self.nouns.facts[:3]]

    def verdict(self, template: dict[str, object], chance: random.Random) -> Verdict:
        """One wording filled, read, and held against its meanings."""
        family, say = str(template["family"]), str(template["say"])
        means = [str(x) for x in (template["means"] if isinstance(template["means"], list) else [template["means"]])]
        means += [text for x in means if (text := _side_by_side(x)) is not None]
        if "chart=box(" in means[0] or (re.search(r"Count\(Rows\(\{rows\}", means[0]) and "by=[{name}]" in means[0]):
            # A box is told by five numbers, which are no rows; of each name there is one row.
            return Verdict(family, "unfit", say, means[0])
        if means[0].startswith("edit("):
            return self._follow_up(family, say, means, chance)
        try:
            trees = [parsed(text) for text in means]
        except NotWritten:
            return Verdict(family, "unsaid", say, means[0])
        asked = [_asked(tree) for tree in trees]
        if not all(asked):
            return Verdict(family, "unsaid", say, means[0])
        why, reason = "unfit", ""
        # What names nothing of a table is asked of the main one.
        fillers = self.fillers if _OF_A_TABLE.search(say) else self.fillers[:1]
        for _ in range(TRIES):
            filling = chance.choice(fillers).filled(say, " ".join(means), chance)
            if filling is None:
                continue
            question = filling.told(say)
            first = asked[0][0]
            if first.name == "Decline":
                return self._declined(family, question, first)
            if first.name == "About" and len(asked[0]) == 1:
                return self._told(family, question, means[0])
            golds: list[tuple[Gold, ...]] = []
            for several in asked:
                try:
                    meant = [Meanings(self.catalogue, self.nouns, self.day, filling).ask(one) for one in several]
                    golds.append(tuple(map(self._gold, meant)))
                    for as_well in (
                        self._shares_of_known,
                        self._of_those_with_any,
                        self._of_known_groups,
                        _sums_apart,
                        _turned,
                    ):
                        told = [as_well(ask) for ask in meant]
                        if told != meant:
                            golds.append(tuple(map(self._gold, told)))
                except (NotWritten, CannotPlan, PlanError, CannotAnswer, ValueError) as error:
                    why, reason = "unsaid", repr(error)
            if golds and not all(says_nothing(g.rows) for several in golds for g in several):
                if len(golds[0]) > 1 or may_be_several(question):
                    return self._read_several(family, question, means[0], golds)
                return self._read(family, question, means[0], [g for several in golds for g in several])
        return Verdict(family, why, say, means[0], reason)

    def _follow_up(self, family: str, say: str, means: list[str], chance: random.Random) -> Verdict:
        """A follow-up, read after a question that its edit can be made to."""
        why, reason = "unfit", ""
        for _ in range(TRIES):
            filling = chance.choice(self.fillers).filled(say, f"{' '.join(means)} {slots_before(means[0])}", chance)
            if filling is None:
                continue
            edited = Edited(Meanings(self.catalogue, self.nouns, self.day, filling), filling)
            golds: list[Gold] = []
            for text in means:
                try:
                    before = edited.before(steps_of(means[0]))
                    golds.append(self._gold(edited.after(before, steps_of(text))))
                except (NotWritten, CannotPlan, PlanError, CannotAnswer, ValueError, KeyError) as error:
                    why, reason = "unsaid", repr(error)
            if golds and not all(says_nothing(g.rows) for g in golds):
                earlier = self._as_read(before)
                if steps_of(means[0])[0].what == "undo":
                    earlier = dataclasses.replace(self._as_read(before.but(groups=())), before=earlier)
                return self._read(family, filling.told(say), means[0], golds, earlier)
        return Verdict(family, why, say, means[0], reason)

    def _shares_of_known(self, ask: m.Ask) -> m.Ask:
        """Shares of a yes or no told of those rows alone on which either stands: as good a reading as of all of them."""
        known: dict[object, object] = {}
        for part in m.parts(ask.quantities):
            if isinstance(part, m.ShareOf) and not part.among and len(part.condition) == 1:
                (told,) = part.condition
                if isinstance(told, m.Is) and self.nouns.column(told.column).type is Type.BOOLEAN:
                    known[part] = dataclasses.replace(part, among=(m.Not(m.Missing(told.column)),))
        return m.replaced(ask, known)  # type: ignore[return-value]

    def _of_those_with_any(self, ask: m.Ask) -> m.Ask:
        """Counts of what belongs to each without the things that have none: as good a reading as with their noughts."""
        counts = [s.quantity for s in ask.shows if isinstance(s, m.Below) and s.quantity.table is not None]
        if not ask.lists or not counts or counts[0].table is None:
            return ask
        return ask.but(where=(*ask.where, m.Has(m.Rows(counts[0].table, counts[0].where))))

    def _of_known_groups(self, ask: m.Ask) -> m.Ask:
        """Without a group for those of which it is missing: as good a reading as with it."""
        groups = [g for g in ask.groups if isinstance(g, m.Col) and self.nouns.column(g.key).missing]
        return ask.but(where=(*ask.where, *(m.Not(m.Missing(g.key)) for g in groups))) if groups else ask

    def _as_read(self, ask: m.Ask) -> Reading:
        return Reading(self.reader.plan_of(ask, self.day), ask, "", (), (), 0.0)

    def _gold(self, ask: m.Ask) -> Gold:
        if ask.lists and not ask.shows:
            naming = self.nouns.naming(ask.head)
            key = self.catalogue.table(ask.head).key
            # Lines with no number of their own are told by what they belong to.
            keys = (key.name,) if key is not None else [link.column for link in self.catalogue.parents(ask.head)]
            ask = ask.but(shows=(naming,) if naming is not None else tuple(m.Col(ColumnKey(ask.head, k)) for k in keys))
        rows = self._rows_of(ask)
        if ask.having and all(isinstance(q, m.Aggregated) for q in ask.quantities):
            # What groups were only chosen by need not stand in the answer.
            width = len(ask.groups) + len(ask.quantities)
            rows = tuple(row[:width] for row in rows)
        if ask.limit is None or ask.per or not ask.order or len(rows) != ask.limit:
            return Gold(rows)
        by = ask.order[0].by
        if isinstance(by, m.EXPRESSIONS):
            beside = ask.but(limit=None, skip=0, shows=(*(s for s in ask.shows if s != by), by))
        else:
            beside = ask.but(limit=None, skip=0, quantities=(*(q for q in ask.quantities if q != by), by))
        every = self._rows_of(beside)[ask.skip :]
        cut = every[len(rows) - 1][-1] if len(every) >= len(rows) else None
        level = [row for place, row in enumerate(every) if place < len(rows) or row[-1] == cut]
        width = len(rows[0]) if rows else 0
        return Gold(rows, tuple(row[:width] for row in level) if len(level) > len(rows) else ())

    def _rows_of(self, ask: m.Ask) -> Rows:
        return tuple(self.answerer.rows(self.reader.plan_of(ask, self.day))[1])

    def _declined(self, family: str, question: str, tree: Call) -> Verdict:
        found = chosen(self.reader.read(question, self.day), self.answerer)
        outcome = "understood" if found.status == "declined" else "misread"
        words = found.readings[0].words if found.readings else found.problem
        return Verdict(family, outcome, question, tree.raw, words, found.doubt)

    def _told(self, family: str, question: str, means: str) -> Verdict:
        """A question about the data themselves."""
        found = chosen(self.reader.read(question, self.day), self.answerer)
        words = found.readings[0].words if found.readings else found.problem
        return Verdict(
            family, "understood" if found.status == "told" else "misread", question, means, words, found.doubt
        )

    def _read_several(self, family: str, question: str, means: str, golds: list[tuple[Gold, ...]]) -> Verdict:
        """Several questions in one: each that is meant is answered by one of those that it is cut into."""
        verdicts = []
        for several in golds:
            tasks = brief_of(question, self.reader, self.day).tasks if may_be_several(question) else ()
            texts = [(t.text, t.understanding) for t in tasks] or [(question, self.reader.read(question, self.day))]
            each = [
                [self._held_against(family, text, means, [gold], found) for text, found in texts] for gold in several
            ]
            known = all(any(v.outcome == "understood" for v in tried) for tried in each)
            known = known or (len(several) == 1 and self._told_in_parts(several[0], [found for _, found in texts]))
            flat = [v for tried in each for v in tried]
            verdicts.append(
                Verdict(
                    family,
                    "understood" if known else "misread",
                    question,
                    means,
                    " // ".join(dict.fromkeys(v.reading for v in flat)),
                    any(v.doubt or v.outcome == "declined" for v in flat),
                )
            )
        return next((v for v in verdicts if v.outcome == "understood"), verdicts[0])

    def _told_in_parts(self, gold: Gold, found: list[Understanding]) -> bool:
        """True where what is meant stands in the answers of several questions, one beside the other."""
        answers = []
        for one in found:
            best = chosen(one, self.answerer)
            if best.status != "answered":
                return False
            answers.append(self.answerer.rows(best.readings[0].plan)[1])
        if len(answers) < 2 or any(len(rows) != len(gold.rows) for rows in answers):
            return False
        return same_table(gold.rows, tuple(tuple(itertools.chain(*rows)) for rows in zip(*answers, strict=True)))

    def _read(
        self, family: str, question: str, means: str, golds: list[Gold], earlier: Reading | None = None
    ) -> Verdict:
        return self._held_against(family, question, means, golds, self.reader.read(question, self.day, earlier))

    def _held_against(
        self, family: str, question: str, means: str, golds: list[Gold], understanding: Understanding
    ) -> Verdict:
        found = chosen(understanding, self.answerer)
        if not found.readings:
            return Verdict(family, "declined", question, means, found.problem)
        best = found.readings[0]
        told = tuple(signs(best.evidence).items())
        try:
            plan = best.plan
            if best.ask.across:
                # A cross table says the same as its cells one below the other.
                plan = self.reader.plan_of(best.ask.but(across=False, totals=False), self.day)
            _, rows = self.answerer.rows(plan)
        except CannotAnswer:
            return Verdict(family, "declined", question, means, found.problem, signs=told)
        right = any(g.is_told_by(tuple(rows)) for g in golds)
        if found.status != "answered":
            return Verdict(family, "declined", question, means, found.problem, signs=told, right=right)
        return Verdict(
            family, "understood" if right else "misread", question, means, best.words, found.doubt, told, right
        )


def _sums_apart(ask: m.Ask) -> m.Ask:
    """The sum of a difference as the difference of the sums, which differ where one of the two is missing."""
    change: dict[object, object] = {}
    for part in m.parts(ask):
        match part:
            case m.Aggregated(function="sum", expr=m.Arithmetic(op="+" | "-" as op, left=left, right=right)):
                sums = [dataclasses.replace(part, expr=e) for e in (left, right)]
                change[part] = m.Combined(op, sums[0], sums[1])
            case _:
                pass
    return m.replaced(ask, change)  # type: ignore[return-value]


def _turned(ask: m.Ask) -> m.Ask:
    """Groups of a condition told by its opposite: those that are closed, and those that are not open."""
    tests = {
        g: m.Test(g.condition.item if isinstance(g.condition, m.Not) else m.Not(g.condition))
        for g in ask.groups
        if isinstance(g, m.Test)
    }
    return m.replaced(ask, tests) if tests else ask  # type: ignore[return-value, arg-type]


def _asked(tree: Node) -> tuple[Call, ...]:
    """The questions of a meaning, one or several; none where it is no question."""
    match tree:
        case Call(name="Both", arguments=several):
            found = [_asked(one) for one in several]
            return tuple(q for one in found for q in one) if all(found) else ()
        case Infix(op="and", left=left, right=right):
            one, other = _asked(left), _asked(right)
            return (*one, *other) if one and other else ()
        case Call(name="Ask" | "Decline" | "About"):
            return (tree,)
        case _:
            return ()


def _side_by_side(means: str) -> str | None:
    """Two values held against each other, as one row of each."""
    found = _BOTH.search(means)
    if found is None or "by=" in means:
        return None
    return means.replace(found[0], found[1]).rstrip(")") + ", by=[values({cat}, [{value}, {value2}])])"


def templates(bank: Path) -> Iterator[dict[str, object]]:
    for path in sorted(bank.glob("*.jsonl")):
        for line in path.read_text().splitlines():
            yield json.loads(line)


def run_over(bank: Path, folder: Path, share: float, seed: int) -> list[Verdict]:
    """A share of the wordings, drawn by a seed, over the tables of one folder of data."""
    logging.disable(logging.CRITICAL)
    about = json.loads((folder / "pack.json").read_text())
    opened = opened_pack(folder, about)
    over = Bank(opened.catalogue, opened.answerer, dt.date.fromisoformat(about["as_of"]))
    chance, found = random.Random(seed), []
    for template in templates(bank):
        taken = chance.random() < share
        one = random.Random(f"{template['say']}{folder.name}")
        if taken:
            found.append(over.verdict(template, one))
    return found


def bench_wordings(bank: Path, folders: list[Path], share: float, seed: int) -> int:
    """Print the share understood, by family, over all folders together."""
    if not folders:
        print("name at least one folder with data/ and pack.json, such as demo")
        return 2
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        results = list(pool.map(partial(run_over, bank, share=share, seed=seed), folders))
    verdicts = [v for found in results for v in found]
    print(f"{'family':44} {'said':>5} {'understood':>10} {'misread, no doubt':>18} {'left out':>9}")
    families = collections.defaultdict(list)
    for v in verdicts:
        families[v.family].append(v)
    for family in sorted(families, key=lambda f: _share(families[f])):
        print(_line(family, families[family]))
    print(_line("all", verdicts))
    keep("wordings.json", [v.__dict__ for v in verdicts])
    return 0


def _said(verdicts: list[Verdict]) -> list[Verdict]:
    return [v for v in verdicts if v.outcome not in ("unsaid", "unfit")]


def _share(verdicts: list[Verdict]) -> float:
    said = _said(verdicts)
    return sum(v.outcome == "understood" for v in said) / max(len(said), 1)


def _line(name: str, verdicts: list[Verdict]) -> str:
    said = _said(verdicts)
    silent = sum(v.outcome == "misread" and not v.doubt for v in said) / max(len(said), 1)
    return f"{name:44} {len(said):5} {_share(verdicts):10.1%} {silent:18.1%} {len(verdicts) - len(said):9}"
