"""The gloss: what each of a question's words was read as, to the character."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES, date_words, span_words, spoken
from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Edge
from gumption.core.reading.pieces import Measured, Noun, Part, Top, Values, Worked
from gumption.core.reading.times import TIME_WORDS, Span
from gumption.core.reading.tokens import Token
from gumption.core.reading.vocabulary import Vocabulary

GlossKind = Literal["measure", "column", "value", "time", "operation", "unread"]


@dataclass(frozen=True)
class Gloss:
    """Characters [start, end) of the question and what they were read as."""

    start: int
    end: int
    kind: GlossKind
    note: str


_SPELLED = "spelled "


def respelled(glosses: tuple[Gloss, ...]) -> list[str]:
    """The values that were spelled otherwise in the question: a name that is near another may be another's all the same."""
    notes = (part for gloss in glosses if gloss.kind == "value" for part in gloss.note.split("; "))
    return [note.removeprefix(_SPELLED) for note in notes if note.startswith(_SPELLED)]


ROWS = "the rows"
"""The note of words that nothing here is called, taken for the rows."""
_NOTES = {
    "COUNT": "count of rows",
    "DISTINCT": "different values",
    "BY": "for each",
    "NEG": "not",
    "MISSING": "missing",
    "WITHOUT": "without",
    "HAVING": "with",
    "SHARE": "share",
    "ASSHARE": "each ÷ the total",
    "RUNNING": "running total",
    "GROWTH": "on the one before",
    "YOY": "on a year before",
    "MOVING": "moving average",
    "RANK": "rank",
    "LIST": "show",
    "WHICH": "show",
    "WHO": "who",
    "WHERE": "where",
    "WHEN": "when",
    "ORDERBY": "order",
    "DESC": "highest first",
    "ASC": "lowest first",
    "ALPHA": "by name",
    "CHART": "chart",
    "LOOK": "how the chart looks",
    "OR": "and, or",
    "DISTRIB": "in bands",
    "SPREADOUT": "in bands",
    "CROSS": "two groups crossed",
    "STATS": "count, average, median, extremes, deviation",
    "QUARTILES": "quartiles",
    "BOXPLOT": "extremes and quartiles",
    "TREND": "over time",
    "GREW": "change",
    "SIGN": "compared",
    "NU": "a number with its unit",
    "EDGES": "bands",
    "DOER": "who",
    "TOOK": "how long",
    "VERSUS": "compared",
    "BETWEEN": "between",
    "HOWMUCH": "total",
    "ONLY": "only",
    "DUR": "a length of time",
    "PLAN": "what was planned",
    "RATED": "as a share of all",
    "NOW": "what runs today",
    "COMP": "compared",
    "ROLE": "of the same table",
    "LIVE": "a condition",
    "KINDS": "different ones",
    "VERB": "what was done",
    "ACT": "what was done",
    "HAD": "were there then",
    "HADT": "rows",
    "HADC": "how many of them",
    "REST": "the others",
    "DO": "what was done",
    "G": "for each",
    "TOLD": "as it is told there",
    "SHIFT": "moved on",
    "AVGOF": "the average of all",
    "IDLE": "which ones",
    "REACHED": "compared",
}
_COMPARISONS = {">": "over", ">=": "at least", "<": "under", "<=": "at most", "=": "exactly"}
_AGGREGATES = {"mean": "average", "sum": "total", "deviation": "standard deviation"}


def bare_glosses(tokens: list[Token]) -> tuple[Gloss, ...]:
    """Every content word as not read."""
    return tuple(
        Gloss(t.start, t.end, "unread", "not read")
        for t in tokens
        if t.kind == "word" and t.lower not in lexicon.fillers()
    )


def leaves(edge: Edge) -> tuple[Edge, ...]:
    """The words that a piece is made of, each as what it was taken for; the piece keeps them for the next look."""
    kept: tuple[Edge, ...] | None = edge.__dict__.get("_leaves")
    if kept is None:
        kept = tuple(leaf for child in edge.children for leaf in leaves(child)) if edge.children else (edge,)
        edge.__dict__["_leaves"] = kept
    return kept


def pieces_of(edge: Edge) -> Iterator[Edge]:
    """A piece and all that it was put together from."""
    yield edge
    for child in edge.children:
        yield from pieces_of(child)


def glosses_of(
    tokens: list[Token],
    edges: tuple[Edge, ...],
    unread: tuple[int, ...],
    spelling: dict[int, str],
    vocabulary: Vocabulary,
) -> tuple[Gloss, ...]:
    """Glosses of the pieces that were used, and of the words that were not."""
    found: list[Gloss] = []
    covered: set[int] = set()
    for edge in edges:
        for leaf in leaves(edge):
            described = _described(leaf, vocabulary)
            places = range(leaf.start, leaf.end)
            if described is None or covered & set(places):
                continue
            kind, note = described
            mends = [f"{_SPELLED}{spelling[i]}" for i in places if i in spelling]
            found.append(Gloss(tokens[leaf.start].start, tokens[leaf.end - 1].end, kind, "; ".join([note, *mends])))
            covered.update(places)
        for place in range(edge.start, edge.end):
            token = tokens[place]
            if place not in covered and token.kind == "word" and token.lower not in lexicon.fillers():
                said: GlossKind = "time" if token.lower in TIME_WORDS else "operation"
                found.append(Gloss(token.start, token.end, said, token.lower))
                covered.add(place)
    for place in unread:
        token = tokens[place]
        small = token.lower in lexicon.fillers() and not token.meant
        if place not in covered and not small and token.kind != "symbol":
            found.append(Gloss(token.start, token.end, "unread", "not used"))
    return tuple(sorted(found, key=lambda g: g.start))


def _described(leaf: Edge, vocabulary: Vocabulary) -> tuple[GlossKind, str] | None:
    value = leaf.value
    match value:
        case Noun(table=str() as table):
            return "column", spoken(table)
        case Noun(key=key) if key is not None:
            kind: GlossKind = "measure" if vocabulary.column(key).is_measure else "column"
            return kind, f"{key.table}.{key.column}"
        case Noun():
            return "column", ROWS
        case Values(column=column, values=values):
            shown = ", ".join(map(str, values[:2])) + ("…" if len(values) > 2 else "")
            return "value", f"{column.table}.{column.column} = {shown}"
        case Measured() | Worked() | m.Below():
            return "measure", "worked out"
        case Part():
            return "value", "a condition"
        case Span():
            return "time", _span_note(value)
        case Top(descending=descending):
            return "operation", "highest first" if descending else "lowest first"
        case float():
            return "value", f"{value:,.10g}"
        case str() if leaf.category in ("QUOTED", "CLOCK", "W"):
            return "value", value
        case str() if leaf.category in ("CMP", "ORMORE"):
            return "operation", _COMPARISONS.get(value, value)
        case str() if leaf.category == "AGG":
            return "operation", _AGGREGATES.get(value, value)
        case _:
            note = _NOTES.get(leaf.category)
            return ("operation", note) if note else ("operation", leaf.category.lower()) if leaf.rule == "" else None


def _span_note(span: Span) -> str:
    if span.part == "month":
        return ", ".join(MONTH_NAMES[n - 1] for n in span.numbers) + " of any year"
    if span.part == "weekday":
        return ", ".join(DAY_NAMES[n - 1] for n in span.numbers)
    if span.part == "quarter":
        return f"quarter {span.numbers[0]} of any year"
    if span.low and span.high:
        return span_words(span.low, span.high).removeprefix("in ").removeprefix("on ").removeprefix("from ")
    return f"from {date_words(span.low)}" if span.low else f"up to {date_words(span.high)}" if span.high else ""
