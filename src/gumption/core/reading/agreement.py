"""Whether a question and what was made of it agree: words that change a meaning, and parts of a meaning nothing says.

Each disagreement has a name; none of them is a fault for sure, and together they tell how far a reading can be trusted.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence

from gumption.core.reading import meaning as m
from gumption.core.reading.times import UNITS
from gumption.core.reading.tokens import Token

_DENYING = frozenset(
    [
        "not",
        "no",
        "never",
        "without",
        "none",
        "nobody",
        "neither",
        "nor",
        "except",
        "excluding",
        "apart",
        "cannot",
        "don't",
        "doesn't",
        "didn't",
        "isn't",
        "aren't",
        "wasn't",
        "weren't",
        "haven't",
        "hasn't",
        "hadn't",
        "won't",
        "dont",
        "doesnt",
        "didnt",
        "isnt",
        "arent",
        "wasnt",
        "havent",
        "hasnt",
        "nothing",
        "outside",
        "lack",
        "lacking",
    ]
)
_COMPARING = frozenset(
    ["than", "over", "under", "above", "below", "exceeds", "exceed", "exceeding", "beyond", "beneath", "least", "up"]
)
_EACH = frozenset(["each", "per", "every", "by"])
_AVERAGE = frozenset(["average", "avg", "mean", "typical", "typically", "averages", "averaged"])
_TOTAL = frozenset(["total", "sum", "totals", "overall", "altogether"])
_SHARE = frozenset(
    [
        "share",
        "percent",
        "percentage",
        "%",
        "proportion",
        "rate",
        "ratio",
        "fraction",
        "pct",
        "shares",
        "percentages",
        "rates",
        "part",
    ]
)
_ENDS = frozenset(
    [
        "most",
        "least",
        "highest",
        "lowest",
        "top",
        "best",
        "worst",
        "biggest",
        "largest",
        "smallest",
        "first",
        "last",
        "latest",
        "earliest",
        "newest",
        "oldest",
        "longest",
        "shortest",
        "cheapest",
        "dearest",
        "busiest",
        "quietest",
        "fastest",
        "slowest",
        "fewest",
        "heaviest",
        "lightest",
        "bottom",
        "greatest",
        "priciest",
        "commonest",
        "strongest",
        "weakest",
        "youngest",
        "maximum",
        "minimum",
        "max",
        "min",
        "peak",
        "record",
    ]
)
_VERSUS = frozenset(
    ["compare", "compared", "vs", "versus", "against", "difference", "comparison", "differ", "contrast"]
)
_CHANGING = frozenset(
    [
        "change",
        "changed",
        "changes",
        "growth",
        "grew",
        "grow",
        "grown",
        "increase",
        "increased",
        "decrease",
        "decreased",
        "rise",
        "rose",
        "risen",
        "fall",
        "fell",
        "fallen",
        "drop",
        "dropped",
        "improve",
        "improved",
        "decline",
        "declined",
        "trend",
        "gained",
        "gain",
    ]
)
_LASTING = frozenset(
    [
        "days",
        "hours",
        "minutes",
        "years",
        "months",
        "long",
        "time",
        "late",
        "duration",
        "wait",
        "age",
        "old",
        "older",
        "younger",
        "delay",
        "early",
        "since",
        "day",
        "ago",
        "length",
        "open",
        "longer",
        "shorter",
        "lasts",
        "lasted",
        "takes",
        "took",
        "quick",
        "fast",
        "slow",
    ]
)
_PRESENT = frozenset(["now", "currently", "presently", "moment", "today", "tonight", "nowadays"])
_ROUGH = frozenset(["roughly", "about", "approximately", "around", "nearly"])
_ABOUT = _ROUGH | {"almost", "recently", "lately", "soon", "usually", "mostly", "often"}
_NUMBER = re.compile(r"-?\d+(?:\.\d+)?")
_SCALES = (1.0, 1e3, 1e6, 1e9, 0.01, 100.0, 60.0, 1 / 60, 24.0, 7.0, 12.0, 30.0, 365.0)


def unmodelled(tokens: Sequence[Token], ask: m.Ask, *, follows: bool) -> Iterator[int]:
    """Places of words that change a meaning, and that this meaning does nothing with."""
    parts = m.parts(ask)
    timed = (m.Today, m.Now, m.Within, m.PartIs, m.Missing, m.Clock)
    present = any(isinstance(p, timed) for p in parts) or any(isinstance(g, m.PartOf) for g in ask.groups)
    counts = bool(ask.quantities) and not any(
        isinstance(p, m.Aggregated) and p.function in ("min", "max") for p in m.parts(ask.quantities)
    )
    for place, token in enumerate(tokens):
        if counts and token.lower == "when" and place and tokens[place - 1].lower == "since":
            # Since when something has been so is a day, and no number.
            yield place
        # "Now by month" says only that something else comes.
        if present or follows or place == 0:
            continue
        if token.lower in _PRESENT or (token.lower in _ROUGH and _before_a_number(tokens, place)):
            yield place


def _before_a_number(tokens: Sequence[Token], place: int) -> bool:
    return place + 1 < len(tokens) and tokens[place + 1].number is not None


def disagreements(tokens: Sequence[Token], ask: m.Ask) -> Iterator[str]:
    """The names of what is said and not meant, or meant and not said."""
    said = {t.lower for t in tokens}
    parts = m.parts(ask)
    there = {type(p) for p in parts}

    def has(*kinds: type) -> bool:
        return not there.isdisjoint(kinds)

    def worked(test: Callable[[m.Aggregated | m.OverGroups], bool]) -> bool:
        return any(isinstance(p, (m.Aggregated, m.OverGroups)) and test(p) for p in parts)

    denies = (
        has(m.Not, m.Missing)
        or any(isinstance(p, m.Has) and p.op in ("<", "<=", "=") for p in parts)
        or any(isinstance(p, (m.Compared, m.Having)) and p.op in ("!=", "<", "<=") for p in parts)
        or any(isinstance(p, m.Is) and any(v in (False, "no", "No", "N") for v in p.values) for p in parts)
    )
    if said & _DENYING and not denies:
        yield "denied in words alone"
    if not said & _DENYING and has(m.Not, m.Missing):
        yield "denied without a word"
    held = has(m.Compared, m.Having, m.Has, m.Between, m.Among) or bool(ask.limit)
    if "than" in said and not held:
        yield "held against nothing"
    if said & _COMPARING and not held and not has(m.Within, m.Clock, m.Along, m.PartIs):
        yield "bounded in words alone"
    split = bool(ask.groups) or bool(ask.per) or has(m.OverGroups, m.Below)
    if said & _EACH and not split and not has(m.Combined, m.ShareOf) and not ask.order:
        yield "split in words alone"
    means = worked(lambda p: p.function in ("mean", "median", "mode") or isinstance(p, m.OverGroups))
    if said & _AVERAGE and not means and not has(m.Combined):
        yield "averaged in words alone"
    if means and not said & (_AVERAGE | {"median", "mode", "middle", "usual", "common", "commonest", "expect"}):
        yield "averaged without a word"
    if said & _TOTAL and not worked(lambda p: p.function in ("sum", "count", "distinct")):
        yield "added up in words alone"
    shares = has(m.ShareOf) or any(
        (isinstance(p, m.Along) and "share" in p.kind) or (isinstance(p, m.Combined) and p.op == "/") for p in parts
    )
    percents = shares or has(m.Between) or any(isinstance(p, m.Along) for p in parts)
    if said & _SHARE and not percents:
        yield "shared in words alone"
    if shares and not said & _SHARE | said & _EACH and not {"many", "half", "third", "quarter"} & said:
        yield "shared without a word"
    ends = bool(ask.order) or bool(ask.limit) or worked(lambda p: p.function in ("min", "max", "percentile"))
    if said & _ENDS and not ends and not has(m.Has, m.Within, m.Having):
        yield "sorted in words alone"
    if ask.limit is not None and not said & _ENDS and not any(t.lower.endswith("est") for t in tokens):
        yield "cut short without a word"
    several = len(ask.quantities) > 1 or len(ask.groups) > 0 or has(m.Between, m.Test)
    if said & _VERSUS and not several and not has(m.Combined, m.Compared, m.Having):
        yield "compared in words alone"
    timed = any(isinstance(p, m.PartOf) for p in ask.groups)
    moves = has(m.Between) or any(isinstance(p, m.Along) for p in parts) or timed
    if said & _CHANGING and not moves:
        yield "changed in words alone"
    if has(m.Between) and not said & (_CHANGING | _VERSUS | {"than", "from", "between", "and", "before", "up", "down"}):
        yield "changed without a word"
    if has(m.Length) and not said & (_LASTING | set(UNITS)):
        yield "timed without a word"
    if {"how", "many"} <= said and ask.lists:
        yield "counted in words alone"
    if said & {"list", "show"} and ask.quantities and not ask.groups:
        yield "listed in words alone"
    if "both" in said and not has(m.All, m.Any) and not any(isinstance(p, m.Is) and len(p.values) > 1 for p in parts):
        if len(ask.quantities) < 2:
            yield "both in words alone"
    if said & _ABOUT and not has(m.Within, m.Length):
        yield "about in words alone"
    told = {float(n) for n in _NUMBER.findall(repr(ask))}
    for token in tokens:
        number = token.number
        if number is not None and not any(_near(number * scale, told) for scale in _SCALES):
            yield "a number in words alone"
            break
    if ask.having and not said & (_COMPARING | _DENYING | _ENDS | {"than", "only", "least", "more", "fewer", "less"}):
        yield "held without a word"


def _near(number: float, told: set[float]) -> bool:
    return any(abs(number - other) <= 1e-6 * max(1.0, abs(number)) for other in told)
