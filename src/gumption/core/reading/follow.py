"""Follow-ups: a short question as an edit of the frame before it."""

from __future__ import annotations

from dataclasses import replace

from gumption.core.model.catalogue import Catalogue
from gumption.core.reading.frame import Condition, Frame
from gumption.core.reading.tokens import Token

_OPENERS = frozenset(
    [
        "and",
        "only",
        "just",
        "now",
        "add",
        "also",
        "what",
        "but",
        "same",
        "split",
        "sort",
        "with",
        "without",
        "plus",
        "or",
        "then",
        "who",
        "those",
        "them",
        "their",
        "it",
        "as",
        "by",
        "per",
        "for",
        "in",
        "of",
    ]
)
_POINTERS = frozenset(["those", "them", "they", "these", "their", "it", "ones"])


def starts_follow_up(tokens: list[Token], frame: Frame) -> bool:
    """True where the question leans on the one before: it opens like an edit, points back, or names nothing to work out."""
    words = [t.lower for t in tokens]
    if words[0] in _OPENERS or _POINTERS & set(words):
        return True
    return not frame.measures and frame.subject is None and len(words) <= 6


def merged(earlier: Frame, edit: Frame, tokens: list[Token], catalogue: Catalogue) -> Frame:
    """The earlier frame with what the edit says in place of what it said before."""
    words = [t.lower for t in tokens]
    frame = earlier
    listing = words[0] in ("who", "which", "list", "show") and not edit.measures
    if listing and earlier.measures and not earlier.groups and earlier.measures[0].table:
        frame = frame.with_(measures=(), having=(), windows=(), subject=earlier.measures[0].table)
    if edit.having:
        # "Only those with at least 100 ratings" keeps what was worked out and counts beside it.
        having = tuple(replace(h, measure=h.measure + len(earlier.measures)) for h in edit.having)
        frame = frame.with_(measures=(*earlier.measures, *edit.measures), having=(*earlier.having, *having))
    elif edit.measures and not listing:
        added = words[0] in ("add", "also", "plus", "and") and not edit.groups and bool(earlier.groups)
        frame = frame.with_(measures=(*earlier.measures, *edit.measures) if added else edit.measures)
        counts = [m.table for m in edit.measures if m.table]
        if not added and not edit.groups and counts and words[0] == "how":
            frame = frame.with_(groups=(), order=None, limit=None, windows=(), shown=())
    if edit.groups:
        added = bool({"too", "also"} & set(words)) or words[0] == "split"
        frame = frame.with_(groups=(*earlier.groups, *edit.groups) if added else edit.groups)
        if frame.limit is not None and not frame.measures:
            frame = frame.with_(limit=None, order=None)
    frame = frame.with_(conditions=_conditions(earlier.conditions, edit.conditions))
    if edit.shown:
        frame = frame.with_(shown=(*frame.shown, *edit.shown))
    if edit.windows:
        frame = frame.with_(windows=edit.windows)
    if edit.order is not None and edit.order.column and frame.limit is not None and edit.limit is None:
        frame = frame.with_(shown_order=edit.order)
    elif edit.order is not None:
        frame = frame.with_(order=edit.order, limit=edit.limit or frame.limit)
    if edit.presence:
        frame = frame.with_(presence=(*frame.presence, *edit.presence))
    if not frame.measures and not frame.groups and frame.subject is None:
        frame = frame.with_(subject=edit.subject or catalogue.tables[0].name)
    return frame


def _conditions(earlier: tuple[Condition, ...], edit: tuple[Condition, ...]) -> tuple[Condition, ...]:
    replaced = {c.column for c in edit}
    return (*(c for c in earlier if c.column not in replaced), *edit)
