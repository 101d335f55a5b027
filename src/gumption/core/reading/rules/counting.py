"""Counts: how many visits, number of different owners, visits counted."""

from __future__ import annotations

import dataclasses
from typing import get_args

from gumption.core.plan.expressions import AggregateName
from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Axis,
    Counted,
    Function,
    Grouped,
    Noun,
    Part,
    Ratio,
    Shown,
    Some,
    Values,
    Worked,
)
from gumption.core.reading.rules.groups import each_of


def _counted(noun: Noun) -> Counted:
    return Counted(noun)


def _with_sum(*parts: object) -> tuple[object, ...] | None:
    """How many rows there are, and what they come to."""
    noun = parts[-1]
    functions = [p for p in parts if isinstance(p, str) and p in get_args(AggregateName)]
    if not isinstance(noun, Noun) or len(set(functions)) != len(functions):
        return None
    return Counted(noun), *(Function(f, beside=True) for f in functions)


def _of_their_rows(kind: Noun, rows: Noun) -> Noun | None:
    """The reason for a visit is the reason that stands on it."""
    return kind if kind.key is not None and kind.key.table == rows.table else None


def _distinct(noun: Noun) -> Counted:
    return Counted(noun, distinct=True)


def _at_present(noun: Noun, part: Part) -> tuple[Counted, Part] | None:
    """How many there are now: those that are still so, where that is told of their rows."""
    return (Counted(noun), part) if {k.table for k in m.columns_in(part.condition)} == {noun.table} else None


def _some(part: object) -> Some | None:
    return Some(part.condition) if isinstance(part, Part) and part.kind != "time" else None


def _each_of(one: Values, two: Values) -> tuple[Counted, Part, Grouped] | None:
    """How many there are of the one, and how many of the other."""
    each = each_of(one, two)
    return (Counted(Noun(table=one.column.table)), each[1], each[0]) if each is not None else None


def _counted_axis(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How many are new: they are counted, by when they were first heard of."""
    noun, axis = (next((p for p in parts if isinstance(p, kind)), None) for kind in (Noun, Axis))
    return (Counted(noun, distinct=True), axis) if isinstance(noun, Noun) and axis is not None else None


def _one_by_one(*kinds: Values) -> tuple[object, ...] | None:
    """How many dogs and how many cats: a number of each."""
    if len(set(kinds)) != len(kinds):
        return None
    tables = (m.Aggregated("count", table=v.column.table, where=(m.Is(v.column, v.values),)) for v in kinds)
    return tuple(Worked(t) for t in tables)


def _so_many_done(kinds: Values, done: Noun) -> tuple[object, ...] | None:
    """How many croissants were sold: so many of them as the column of those sold says, on the rows that tell of them."""
    if done.key is None:
        return None
    return Worked(m.Aggregated("sum", m.Col(done.key))), Part(m.Is(kinds.column, kinds.values))


def _listed(*parts: object) -> tuple[Shown, ...] | None:
    """Several columns one after the other."""
    flat = [n for p in parts for n in (p if isinstance(p, tuple) else (p,))]
    nouns = [n.noun if isinstance(n, Shown) else n for n in flat if isinstance(n, (Noun, Shown))]
    return tuple(Shown(n) for n in nouns) if len(set(nouns)) == len(nouns) > 1 else None


_DID = "has|have|had|did|does|do"
_HAD = "had|have|got|get|seen|see|used|use|made|make|been|taken|take|bought|buy|visited|visit|tried"


def _more_of_each(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether dogs get more visits each than cats: how many visits there are to one of each."""
    each = each_of(*(p for p in parts if isinstance(p, Values)))
    things, rows = [p for p in parts if isinstance(p, Noun)][:2]
    return (Ratio(Counted(rows), things), *each) if each is not None and things != rows else None


def _wanting(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How many want a large one: what they want is told on their rows."""
    column = next(p for p in parts if isinstance(p, Noun))
    values = next(p for p in parts if isinstance(p, Values))
    if column.key is None or values.column != column.key:
        return None
    return Counted(Noun(table=column.key.table)), Part(m.Is(values.column, values.values))


RULES = (
    Rule("SHI", "C|D|M|F|T", lambda n: n, ("rating",)),
    Rule("SHI", "C|D|M of T", lambda n, _: n, ("rating of the visit",), weight=0.02),
    Rule("SHL", "SHI plus|+|/ SHI", _listed, ("rating plus species",), weight=0.02),
    Rule("SHL", "SHI ,|;|and|& SHI", _listed, ("rating, species",), weight=0.1),
    Rule("SHL", "SHL ,|;|and|& SHI", _listed, ("rating, species, fee",), weight=0.1),
    Rule("SHL", "SHL , and SHI", _listed, ("rating, species, and fee",), weight=0.12),
    Rule("BESX", "HAVING SHL", lambda _, columns: columns, ("with the species, the fee and the rating",), weight=0.22),
    Rule(
        "BESX",
        "giving|showing|including|listing|stating SHL",
        lambda columns: columns,
        ("giving fee and rating",),
        weight=0.3,
    ),
    Rule("BESX", "need|needing SHL", lambda columns: columns, ("need species, fee and rating",), weight=0.3),
    Rule(
        "CNTX",
        "COUNT people|persons|individuals|folk who|that? were|was|are|have|had|got|been? VS",
        lambda _, v: (Counted(Noun(table=v.column.table)), Part(m.Is(v.column, v.values))),
        ("number of people had dogs",),
        weight=-0.05,
    ),
    Rule(
        "CNTX",
        "COUNT people|persons|individuals|babies|children were|was|are|have|had|got|been E",
        lambda _, e: (Worked(m.in_all(e.expr)),),
        ("how many people were weighed",),
        weight=0.2,
    ),
    Rule("NP", "T", lambda n: n, ("visits",)),
    Rule("NP", "all the? T", lambda n: n, ("all visits",), weight=0.05),
    Rule("NP", "every T", lambda n: n, ("every visit",), weight=-0.1),
    Rule("NP", "new|newly T", lambda n: n, ("new visits",), weight=0.02),
    Rule("NP", "C", lambda n: n, ("species",)),
    Rule("NP", "C for|of a|an|the? T", _of_their_rows, ("species of a visit",), weight=0.1),
    Rule("NP", "D", lambda n: n, ("visit date",), weight=-0.08),
    Rule("NP", "F", lambda n: n, ("attended",), weight=-0.1),
    Rule("NP", "U", lambda n: n, ("repairs",), weight=-0.1),
    Rule(
        "NP",
        "kind|kinds|type|types|sort|sorts of C",
        lambda n: dataclasses.replace(n, kinds=True),
        ("kinds of species",),
        weight=0.05,
    ),
    Rule("NP", "with|and|plus|including|showing their|its C|D|M|F", lambda n: n, ("with their town",), weight=0.1),
    Rule("NP", ", with the C|D|M|F", lambda n: n, (", with the town",), weight=0.25),
    Rule("NPX", "VS", lambda v: (Part(m.Is(v.column, v.values)), Noun(table=v.column.table)), ("dogs",), weight=-0.25),
    Rule(
        "G",
        ", coloured|colored|shaded|colour|color by C|F",
        lambda n: Grouped(n),
        (", coloured by species",),
        weight=0.5,
    ),
    Rule("NP", "coloured|colored|shaded|colour|color by C|F", lambda n: n, ("coloured by species",), weight=0.15),
    Rule("NP", "sized|size|sizing by C|D|M|F", lambda n: n, ("sized by fee",), weight=0.3),
    Rule("NP", "C of T|C", lambda n, _: n, ("species of animal",), weight=-0.02),
    Rule("CNT", "COUNT C who|that MV", lambda _, n, __: _distinct(n), ("how many owners who paid",), weight=0.05),
    Rule("NP", "C name|names|type|types|kind|kinds", lambda n: n, ("species names",), weight=0.04),
    Rule("CNT", "COUNT NP", lambda _, n: _counted(n), ("how many visits", "number of owners"), weight=0.1),
    Rule("CNT", "COUNT DISTINCT NP", lambda _, d, n: _distinct(n), ("how many different species",), weight=0.15),
    Rule(
        "CNT",
        "COUNT DISTINCT C in|of|from|among|across|for|on the|our|all? T",
        lambda _, d, n, t: _distinct(n) if n.key is not None and n.key.table == t.table else None,
        ("how many different species among animals",),
        weight=0.45,
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda _, __, c, t, *___: (_distinct(c), Grouped(t)) if c != t else None,
            (example,),
            weight=1.0,
        )
        for pattern, example in (
            (
                f"COUNT DISTINCT C|T {_DID} each|every T {_HAD} T? in|with|by|from|to|on|for?",
                "how many different species has each owner had",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _more_of_each(p), (example,), weight=0.9)
        for pattern, example in (
            (
                "do|does|did VS T get|have|make|take|see|bring|need more|fewer|less T each|apiece than VS T|ones|one?",
                "do Dog animals get more visits each than Cat ones",
            ),
        )
    ),
    Rule(
        "CNT",
        "COUNT T there? we've|we|you|they|i've|there have|has|had|are|were? got? altogether|overall|together",
        lambda _, n: _counted(n),
        ("how many visits we've got altogether",),
        weight=0.5,
    ),
    Rule("CNT", "DISTINCT NP COUNT", lambda d, n, _: _distinct(n), ("different species, count",), weight=0.1),
    Rule("CNT", "NP COUNT", lambda n, _: _counted(n), ("visits, how many", "visit count"), weight=-0.02),
    *(
        Rule("CNT", pattern, lambda n: _counted(n), (example,), weight=0.7)
        for pattern, example in (
            ("all|the|our? T , as? just|only? one|a|the number|count|figure", "all visits, one number"),
            ("is|are|was|were? there? any T at all", "any visits at all"),
        )
    ),
    Rule("CNT", "NP , COUNT", lambda n, _: _counted(n), ("visits, count",), weight=0.02),
    *(
        Rule("CNTX", pattern, lambda *p: _wanting(p), (example,), weight=0.7)
        for pattern, example in (
            ("COUNT people|persons|members? C a|an VS T?", "how many people species a Dog"),
            ("COUNT people|persons|members C VS", "how many people species Dog"),
        )
    ),
    Rule(
        "CNTX",
        "COUNT K NP",
        lambda _, k, n: (_counted(n), k) if isinstance(k, Part) else None,
        ("how many French owners",),
        weight=0.1,
    ),
    Rule(
        "CNTX",
        "COUNT K K NP",
        lambda _, k, j, n: (_counted(n), k, j) if isinstance(k, Part) and isinstance(j, Part) else None,
        ("how many attended French visits",),
        weight=0.02,
    ),
    Rule(
        "CNTX",
        "COUNT K U",
        lambda _, k, n: (_counted(n), k) if isinstance(k, Part) else None,
        ("how many French jobs",),
        weight=-0.05,
    ),
    Rule(
        "CNTX",
        "K NP COUNT",
        lambda k, n, _: (_counted(n), k) if isinstance(k, Part) else None,
        ("French owners, how many",),
        weight=0.05,
    ),
    *(
        Rule("CNTX", pattern, lambda _, n, k: _at_present(n, k), (example,), weight=0.25)
        for pattern, example in (
            ("COUNT T do|does|have|has we|they|you|i have|got? NOW", "how many visits do we have now"),
            ("COUNT T are|is there? NOW", "how many visits are there right now"),
            ("COUNT is|are T NOW", "how many are visits right now"),
        )
    ),
    Rule(
        "CNTX",
        "COUNT VS",
        lambda _, v: (Counted(Noun(table=v.column.table)), Part(m.Is(v.column, v.values))),
        ("how many dogs",),
        weight=0.1,
    ),
    *(
        Rule("CNTX", pattern, lambda _, v, n: _so_many_done(v, n), (example,), weight=0.5)
        for pattern, example in (
            ("COUNT VS did|do|have|had|has? we|they|you|i|it? DONE", "how many dogs did we sell"),
            ("COUNT VS were|was|are|have|had|has|get|got? been? DONE", "how many dogs were sold"),
        )
    ),
    *(
        Rule("CNTX", pattern, lambda *p: _one_by_one(*(v for v in p if isinstance(v, Values))), (example,), weight=0.3)
        for pattern, example in (
            ("COUNT VS ,|;|?|and|& and|& COUNT VS", "how many dogs, and how many cats"),
            ("COUNT VS and|&|,|?|; COUNT VS", "how many dogs and how many cats"),
        )
    ),
    Rule(
        "CNTX",
        "COUNT K NP K",
        lambda _, one, n, k: (_counted(n), one, k) if isinstance(k, Part) and k.kind == "related" else None,
        ("how many French owners with visits",),
        weight=0.25,
    ),
    Rule(
        "CNTX",
        "COUNT VS K",
        lambda _, v, k: (
            (Counted(Noun(table=v.column.table)), Part(m.Is(v.column, v.values)), k)
            if isinstance(k, Part) and k.kind == "related"
            else None
        ),
        ("how many dogs with visits",),
        weight=0.3,
    ),
    Rule(
        "CNTX",
        "COUNT K VS",
        lambda _, k, v: (
            (Counted(Noun(table=v.column.table)), k, Part(m.Is(v.column, v.values)))
            if isinstance(k, Part) and k.kind != "time"
            else None
        ),
        ("how many overdue dogs",),
        weight=0.12,
    ),
    *(
        Rule("K", pattern, lambda *p: p[-1][0], (example,), weight=0.5)
        for pattern, example in (
            ("by|from|to|for|of|with|among AGED", "by people under 40"),
            ("taken|bought|sold|held|owned|made|used|booked out? by|to|for AGED", "taken out by people under 40"),
        )
    ),
    Rule("CNTX", "COUNT AGED", lambda _, a: (Counted(a[1]), a[0]), ("how many people under 40",), weight=0.15),
    Rule("NPX", "AGED", lambda a: a, ("people under 40",), weight=0.05),
    Rule("NPX", "KEYED", lambda k: k, ("bill 2",), weight=0.05),
    Rule("CNTX", "COUNT NPX", lambda _, n: _counted_axis(n), ("how many new clinics",), weight=0.15),
    Rule("CNTX", "COUNT V and|& V", lambda _, a, b: _each_of(a, b), ("how many dogs and cats",), weight=0.0),
    *(
        Rule("CNTX", pattern, lambda *p: _with_sum(*p), (example,), weight=0.3)
        for pattern, example in (
            ("COUNT OR OR? AGG of? T|U", "number and average of visits"),
            ("AGG OR OR? COUNT of? T|U", "total and number of visits"),
            ("COUNT OR OR? AGG OR OR? AGG of? T|U", "number, total and average of visits"),
            ("AGG OR OR? AGG OR OR? COUNT of? T|U", "total, average and number of visits"),
        )
    ),
    *(
        Rule("CNTX", pattern, lambda n: (Counted(n), Function("sum", beside=True)), (example,), weight=0.5)
        for pattern, example in (
            ("volume|volumes|number|count and|& value|worth of T|U", "volume and value of visits"),
            ("T by volume and|& value", "visits by volume and value"),
        )
    ),
    Rule(
        "CNTX",
        "T|U and|& AGG",
        lambda n, f: (Counted(n), Function(f, beside=True)) if f in ("sum", "mean") else None,
        ("visits and total",),
        weight=-0.1,
    ),
    Rule(
        "CNTX",
        "COUNT of? T|U and|& AGG",
        lambda _, n, f: (Counted(n), Function(f, beside=True)),
        ("number of visits and average",),
        weight=0.2,
    ),
    Rule("CNT", "T volume|volumes|numbers|total", _counted, ("visit volume",), weight=0.2),
    *(
        Rule("SOME", pattern, lambda *p: _some(p[-1]), (example,), weight=weight)
        for pattern, example, weight in (
            ("COUNT of? them|those|these is|are|were|was|have|has|had? K", "how many of them are overdue", 0.25),
            ("and|, COUNT is|are|were|was|have|has|had K", "and how many were overdue", 0.25),
            ("and|, COUNT HAVING K", "and number with overdue", 0.4),
            (
                "of them|those|these|which , COUNT is|are|were|was|have|has|had? K",
                "of those, how many were overdue",
                0.4,
            ),
            ("of them|those|these|which COUNT is|are|were|was|have|has|had? K", "of which how many were overdue", 0.4),
        )
    ),
    Rule(
        "SOME",
        "and COUNT K",
        lambda _, k: _some(k) if k.kind not in ("time", "value") else None,
        ("and how many closed",),
        weight=0.2,
    ),
    Rule(
        "CNT",
        "how many times has|have|had|was|were|is|are|did|does|do a|an|any|the NP",
        lambda n: Counted(Noun()) if n.key is not None else Counted(n),
        ("how many times was a species",),
        weight=0.4,
    ),
    Rule("CNT", "COUNT", lambda _: Counted(Noun()), ("how many",), weight=-0.15),
    Rule(
        "CNT",
        "how busy|quiet was|were|is|are|has|have|did",
        lambda: Counted(Noun(), doings=True),
        ("how busy was",),
        weight=0.5,
    ),
    Rule("CNT", "COUNT of? them|those|these|that|it", lambda _: Counted(Noun()), ("how many of them",), weight=0.0),
    Rule(
        "CNT",
        "AGG COUNT? T",
        lambda f, *rest: _counted(rest[-1]) if f == "sum" else None,
        ("total visits",),
        weight=-0.05,
    ),
    Rule("CNT", "T volume|volumes|numbers|count|counts", _counted, ("visit volume",), weight=0.3),
    Rule("CNT", "COUNT new D", lambda _, n: _counted(n), ("number of new joiners",), weight=0.3),
    Rule("CNT", "total|overall U", _counted, ("total jobs",), weight=0.3),
)
