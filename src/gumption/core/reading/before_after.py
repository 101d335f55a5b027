"""What was there before and what is left of it, in one unit on one row: the loss, and the yield."""

from __future__ import annotations

from collections.abc import Iterator

from gumption.core.model.types import Role
from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.tokens import stem, stems
from gumption.core.reading.vocabulary import Vocabulary, name_parts

_PAIRS = (
    ("green raw wet gross input before start initial live fresh in uncooked unroasted",
     "roasted dried dry net output after end final finished out cooked milled cleaned trimmed carcass smoked"),
    ("sent dispatched shipped loaded", "received arrived delivered unloaded"),
)  # fmt: skip
"""What something is called before, and what it is called after."""
_LOST = (
    "loss", "losses", "lost", "shrinkage", "shrink", "wastage", "weight loss", "weight lost", "loss in weight", "loss of weight",
    "total loss", "most weight lost",
)  # fmt: skip
_LOST_OF = (
    "loss rate", "percentage loss", "percent loss", "% loss", "loss percentage", "loss %", "shrinkage rate", "weight loss rate",
    "percentage weight loss", "weight loss percentage", "weight loss %", "share lost", "percentage lost",
)  # fmt: skip
_KEPT = ("yield", "yields", "recovery", "yield rate", "average yield")


def before_and_after(vocabulary: Vocabulary) -> list[tuple[ColumnKey, ColumnKey]]:
    """The columns of what there was before, each with that of what is left, which is never much more."""
    found = []
    units = lexicon.units()
    for table in vocabulary.catalogue.tables:
        measured = [c for c in table.columns if c.is_measure and c.role is not Role.MONEY]
        for one in measured:
            for other in measured:
                first, last = name_parts(one.name), name_parts(other.name)
                before, after = {*first} - {*last}, {*last} - {*first}
                alike = {*first} & {*last} and any(p in units or p in ("weight", "volume") for p in {*first} & {*last})
                paired = any(before <= {*a.split()} and after <= {*b.split()} for a, b in _PAIRS)
                if before and after and alike and paired and float(other.high or 0) <= 1.05 * float(one.high or 0):
                    found.append((ColumnKey(table.name, one.name), ColumnKey(table.name, other.name)))
    return found


def losses_on_the_way(vocabulary: Vocabulary) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """(phrase, what it means, how sure) of what was lost from before to after, and how much of it is left."""
    held = {p for words in vocabulary.columns.values() for p in words.parts}
    for before, after in before_and_after(vocabulary)[:1]:
        lost = m.Arithmetic("-", m.Col(before), m.Col(after))
        whole = m.Aggregated("sum", m.Col(before))
        if not stems("loss lost shrinkage") & held:
            doing = {p.removesuffix("ed") + "ing" for p in name_parts(after.column) if p.endswith("ed")}
            said = (
                *_LOST,
                *(f"{d} loss" for d in doing),
                *(f"loss in {d}" for d in doing),
                *(f"lost in {d}" for d in doing),
            )
            yield from ((phrase, lost, 0.97) for phrase in said)
            yield from ((phrase, m.Combined("/", m.Aggregated("sum", lost), whole, True), 0.98) for phrase in _LOST_OF)
        if stem("yield") not in held:
            kept = m.Combined("/", m.Aggregated("sum", m.Col(after)), whole, True)
            yield from ((phrase, kept, 0.97) for phrase in _KEPT)
