"""One measure held against another: by how much it is more, what is left of it, where the two do not agree."""

from __future__ import annotations

from gumption.core.plan.expressions import AggregateName
from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Beside, Grouped, Listing, Measured, Noun, Part, Worked, as_counted
from gumption.core.reading.rules.quantities import sums

_IS = "is|are|was|were"
_NOT = "isn't|isnt|not|aren't|wasn't|weren't"
_MORE = "higher|more|larger|bigger|greater|over|above"
_EACH = "each|every|all"

_first_less = sums("-")


def _second_less(one: Measured, two: Measured) -> Worked | None:
    """Subtract the first from the second."""
    return _first_less(two, one)


def _on_each(one: Measured, two: Measured, rows: Noun) -> Listing | None:
    """The gap between two measures of each of the rows."""
    return Listing(rows, (_apart(one, two),)) if one != two and rows.table is not None else None


_HIGH = "highest|largest|biggest|best|maximum|max|top|dearest|longest|most"
_LOW = "lowest|smallest|worst|minimum|min|bottom|cheapest|shortest|least"
_ENDS: tuple[AggregateName, AggregateName] = ("max", "min")


def _apart(one: Measured, two: Measured) -> Measured:
    return Measured(m.Arithmetic("-", one.expr, two.expr))


def _average_gap(function: str, *parts: object) -> Worked | None:
    one, two = (p for p in parts if isinstance(p, Measured))
    if one == two or function not in ("mean", "median", "max", "min"):
        return None
    return Worked(m.Aggregated(function, _apart(one, two).expr))  # type: ignore[arg-type]


def _from_end_to_end(of: Measured) -> Worked:
    """How far the highest is from the lowest."""
    high, low = (m.Aggregated(f, of.expr) for f in _ENDS)
    return Worked(m.Combined("-", high, low))


def _from_the_average(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What it is for each, and how far that is from the average of all of them."""
    each = next(p for p in parts if isinstance(p, Noun))
    what = next((p for p in parts if isinstance(p, (Measured, Worked)) or (isinstance(p, Noun) and p != each)), None)
    if what is None or (isinstance(what, Noun) and what.table is None):
        return None
    return Grouped(each), as_counted(what), Beside("from_average")


def _both(*parts: object) -> tuple[object, ...] | None:
    """Two sums, and by how much the first is more than the second."""
    one, two = (p for p in parts if isinstance(p, Measured))
    gap = _first_less(one, two)
    return (*(Worked(m.in_all(p.expr)) for p in (one, two)), gap) if gap is not None else None


def _unlike(*parts: object) -> Part | None:
    """Where two measures do not agree."""
    one, two = (p for p in parts if isinstance(p, Measured))
    return Part(m.Compared("!=", one.expr, two.expr), "number") if one != two else None


def _off_by(*parts: object) -> Part | None:
    """Two measures that are further apart than so much, whichever of them is more."""
    one, two = (p for p in parts if isinstance(p, Measured))
    op = next(p for p in parts if isinstance(p, str))
    far = next(p for p in parts if isinstance(p, float))
    if one == two or op not in (">", ">="):
        return None
    gap = _apart(one, two).expr
    beyond = m.Compared(op, gap, m.Number(far))  # type: ignore[arg-type]
    short = m.Compared("<" if op == ">" else "<=", gap, m.Number(-far))
    return Part(m.Any((beyond, short)), "number")


def _moving_by(unit: m.Unit, *of: object) -> tuple[object, ...]:
    """How something goes from one month, or week, to the next."""
    told = next((p for p in of if isinstance(p, (Measured, Noun))), None)
    what = () if told is None else (as_counted(told),)
    return (*what, Grouped(m.PartOf(unit, m.EventTime())), Beside("change"))


def _unit_of(parts: tuple[object, ...]) -> m.Unit:
    units: tuple[m.Unit, ...] = ("year", "quarter", "month", "week", "day")
    return next((unit for unit in units if unit in parts), "month")


def _variance(one: Measured, two: Measured) -> tuple[object, ...] | None:
    """What came against what was meant to: by how much it is more, and by how much of that in per cent."""
    gap = _first_less(one, two)
    if gap is None:
        return None
    return gap, Worked(m.Combined("/", gap.quantity, m.in_all(two.expr), percent=True))


RULES = (
    *(
        Rule("Q", pattern, _first_less, (example,), weight=weight)
        for pattern, example, weight in (
            (
                "by how much does|do|did E exceed|exceeds|exceeded|beat|top|outstrip E overall|altogether?",
                "by how much does fee exceed cost",
                0.6,
            ),
            (
                f"how much of the? E {_IS}? {_NOT} covered|met|matched by E",
                "how much of fee isn't covered by cost",
                0.8,
            ),
            ("balance of|between E and E", "balance of fee and cost", 0.4),
            (
                "did|do|have|are|were we come|came|in|been? over or under on E compared to|with|against? E",
                "did we come over or under on fee compared with cost",
                0.6,
            ),
        )
    ),
    *(
        Rule("Q", pattern, _second_less, (example,), weight=0.6)
        for pattern, example in (
            ("subtract|subtracting|deduct|deducting|take|taking the? E from the? E", "subtract cost from fee"),
            ("knock|take|taking the? E off|away of? the? E", "knock cost off the fee"),
            ("shortfall of E against|versus|vs|to|compared with|to? E", "shortfall of fee against cost"),
        )
    ),
    *(
        Rule("BESX", pattern, _on_each, (example,), weight=0.6)
        for pattern, example in (
            (
                f"gap|difference between E and E on|for|of|in {_EACH} of? the? T",
                "gap between fee and cost on each visit",
            ),
            (f"E minus|less|- E on|for|of|in {_EACH} of? the? T", "fee minus cost for each visit"),
        )
    ),
    *(
        Rule("BES", pattern, lambda *_: Beside("from_average"), (example,), weight=0.5)
        for pattern, example in (
            (
                "compared|comparing|compare|compares|relative|set|stands|stand|stack|stacks up? to|with|against the? average|mean|norm|AVGOF",
                "compared with the average",
            ),
            ("against|versus|vs the? average|mean|norm|AVGOF", "against the average"),
            (
                "difference|distance|gap|deviation from|to|on the? average|mean|norm|AVGOF",
                "difference from the average",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _from_the_average(p), (example,), weight=0.8)
        for pattern, example in (
            (
                "difference|gap|distance between each|every T|C|U E|Q|T and the? average|mean|AVGOF",
                "difference between each clinic fee and the average",
            ),
            (
                "how far? above? or? below? is|are|was|were each|every T|C|U E|Q|T away? from|off|to the? average|mean|AVGOF",
                "how far is each clinic fee from the average",
            ),
            (
                "how do|does|did each|every T|C|U E|Q|T compare|stand|measure|stack up? to|with|against the? average|mean|AVGOF",
                "how does each clinic fee compare to the average",
            ),
        )
    ),
    *(
        Rule("Q", pattern, lambda *p: _from_end_to_end(p[-1]), (example,), weight=0.8)
        for one, other, said in ((_HIGH, _LOW, "highest and lowest"), (_LOW, _HIGH, "lowest and highest"))
        for pattern, example in (
            (
                f"gap|difference|spread|range|distance between|from|of? its|their|the? {one} and|to|& its|their|the? {other} E",
                f"gap between its {said} fee",
            ),
            (
                f"gap|difference|spread|range|distance in E between|from? its|their|the? {one} and|to|& its|their|the? {other} one?",
                f"gap in fee between the {said}",
            ),
        )
    ),
    *(
        Rule("Q", pattern, _average_gap, (example,), weight=0.6)
        for pattern, example in (
            ("AGG difference|gap of|between? E VERSUS E", "average difference fee vs cost"),
            ("AGG difference|gap E and|to E", "average gap fee to cost"),
        )
    ),
    Rule(
        "BESX",
        "variance|variances of|between? E VERSUS|and|to E",
        lambda a, *b: _variance(a, b[-1]),
        ("variance of fee vs cost",),
        weight=0.7,
    ),
    *(
        Rule("BESX", pattern, _both, (example,), weight=0.6)
        for pattern, example in (
            (f"in total|all|sum , {_IS} E {_MORE} than E", "in total, is fee higher than cost"),
            (f"{_IS} the? total E {_MORE} than the? total? E", "is the total fee higher than the total cost"),
        )
    ),
    *(
        Rule("K", pattern, _unlike, (example,), weight=0.6)
        for pattern, example in (
            (
                "where|when|if don't|dont|doesn't|didn't E and E agree|match|tally|correspond",
                "where don't fee and cost agree",
            ),
            (
                "where|with|whose|when E and E don't|dont|doesn't|do|not differ|disagree|agree|match|tally",
                "where fee and cost don't agree",
            ),
            ("E and E differ|disagree", "fee and cost differ"),
        )
    ),
    *(
        Rule("K", pattern, _off_by, (example,), weight=0.6)
        for pattern, example in (
            ("off|out|apart by CMP N between|of E and E", "off by more than 5 between fee and cost"),
            ("E and E CMP N apart", "fee and cost more than 5 apart"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _moving_by(_unit_of(p), *p), (example,), weight=0.6)
        for pattern, example in (
            ("by? how much has|have|did E|T GREW each|every|per UNIT", "by how much has fee grown every year"),
            (
                "how much did? we|they gained|gain|grew|added or lost|lose each|every|per UNIT in|of E|T",
                "how much we gained or lost each week in visits",
            ),
            ("has|have|are|is E|T been? GREW lately|recently", "have visits been falling lately"),
            (
                "UNIT on|by|over UNIT , how are|is|do|does E|T moving|doing|developing|going|changing|move|change",
                "month on month, how are visits moving",
            ),
            (
                "how are|is|do|does E|T moving|developing|changing|move|change UNIT on|by|over UNIT",
                "how are visits moving month on month",
            ),
        )
    ),
)
