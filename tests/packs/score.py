"""Holds an answer against a pack's gold, for `./gumption bench --packs tests/packs/NAME`."""

from __future__ import annotations

import datetime as dt
import itertools
import json
import math
from collections.abc import Sequence
from pathlib import Path
from typing import Any

_MONTHS = [dt.date(2000, n, 1).strftime("%B").lower() for n in range(1, 13)]
_DAYS = [dt.date(2024, 1, n).strftime("%A").lower() for n in range(1, 8)]


def lines(path: Path) -> list[dict[str, Any]]:
    return [json.loads(line) for line in path.read_text(encoding="utf-8").splitlines() if line.strip()]


def judge(gold: dict[str, Any], answer: dict[str, Any]) -> tuple[bool, bool, bool, str]:
    """Right, right in three, wrong without a doubt, and the status."""
    status, wanted = str(answer["status"]), gold["outcome"]
    if status != "answered" and status in wanted:
        return True, True, False, status

    def fits(columns: Sequence[str], rows: Sequence[Sequence[Any]]) -> bool:
        return "answered" in wanted and any(table_matches(a, columns, rows) for a in gold["accept"])

    if status == "answered" and fits(answer["columns"], answer["rows"]):
        return True, True, False, status
    near = any(fits(other["columns"], other["rows"]) for other in answer["alternatives"][:2])
    return False, near, status == "answered" and not answer["unread"] and not answer["doubt"], status


def table_matches(accepted: dict[str, Any], columns: Sequence[str], rows: Sequence[Sequence[Any]]) -> bool:
    """True where an answer has the wanted rows and no others; it may show more columns."""
    wanted = accepted["rows"]
    if len(wanted) != len(rows) or not wanted:
        return len(wanted) == len(rows)
    percent = set(accepted.get("percent", []))
    needed = [i for i in range(len(accepted["columns"])) if i not in accepted.get("optional", [])]
    ordered = bool(accepted["ordered"])
    held = list(zip(*rows, strict=True))
    fits = [
        [j for j, column in enumerate(held) if _fits([r[i] for r in wanted], column, ordered, i in percent)]
        for i in needed
    ]
    for chosen in itertools.islice(itertools.product(*fits), 500):
        if len(set(chosen)) == len(chosen) and (ordered or _pairs(wanted, rows, needed, chosen, percent)):
            return True
    return False


def _fits(wanted: Sequence[Any], held: Sequence[Any], ordered: bool, percent: bool) -> bool:
    if ordered:
        return all(_same(a, b, percent) for a, b in zip(wanted, held, strict=True))
    left = list(held)
    for value in wanted:
        place = next((k for k, other in enumerate(left) if _same(value, other, percent)), None)
        if place is None:
            return False
        del left[place]
    return True


def _pairs(
    wanted: Sequence[Sequence[Any]],
    rows: Sequence[Sequence[Any]],
    needed: Sequence[int],
    chosen: Sequence[int],
    percent: set[int],
) -> bool:
    """True where the chosen columns belong together row by row."""
    left = list(rows)
    for row in wanted:
        pairs = list(zip(needed, chosen, strict=True))
        place = next((k for k, r in enumerate(left) if all(_same(row[i], r[j], i in percent) for i, j in pairs)), None)
        if place is None:
            return False
        del left[place]
    return True


def _same(wanted: Any, held: Any, percent: bool) -> bool:
    if wanted in (None, "") or held in (None, ""):
        return wanted in (None, "") and held in (None, "")
    if isinstance(wanted, bool) or isinstance(held, bool):
        return _flag(wanted) == _flag(held)
    one, two = _number(wanted), _number(held)
    if one is not None and two is not None:
        return any(_near(one, two * scale) for scale in ((1, 100, 0.01) if percent else (1,)))
    told, other = _day(wanted), _day(held)
    if told and other:
        return told == other
    for names in (_MONTHS, _DAYS):
        for name, number in ((wanted, two), (held, one)):
            if number is not None and str(name).lower() in names:
                return names.index(str(name).lower()) + 1 == number
    return " ".join(str(wanted).split()).casefold() == " ".join(str(held).split()).casefold()


def _flag(value: Any) -> bool | None:
    return {"true": True, "yes": True, "1": True, "false": False, "no": False, "0": False}.get(str(value).lower())


def _number(value: Any) -> float | None:
    try:
        found = float(value)
    except (TypeError, ValueError):
        return None
    return found if math.isfinite(found) else None


def _near(one: float, two: float) -> bool:
    return abs(one - two) <= (max(0.0051, 1e-6 * abs(one)) if abs(one) >= 1 else 1e-4)


def _day(value: Any) -> str:
    """The day of a date or of midnight; a year alone is its first day."""
    text = str(value).replace("T00:00:00", "").replace(" 00:00:00", "")
    if len(text) == 4 and text.isdigit():
        return f"{text}-01-01"
    return text if len(text) == 10 and text[4] == text[7] == "-" else ""
