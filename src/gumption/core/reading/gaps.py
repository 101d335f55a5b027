"""What a description says of a gap: "empty if sold direct" makes those sold direct the rows without a value."""

from __future__ import annotations

import re
from collections.abc import Iterator

from gumption.core.model.catalogue import Column
from gumption.core.reading.tokens import stem

_TOLD = re.compile(
    r"\b(?:empty|blank|missing|nothing|null|not filled|unfilled)(?: there)?,? "
    r"(?P<how>if|when|where|while|for|as long as|unless|until|till) (?P<what>[^;:,.()]+)"
)
_FILLED = frozenset(["unless", "until", "till"])
_NOT = frozenset(["not", "never", "no", "nobody", "nothing", "without"])
_SMALL = frozenset(
    ["the", "a", "an", "is", "are", "was", "were", "be", "been", "it", "they", "he", "she", "has", "have", "had", "yet",
     "still", "already", "so", "one", "someone", "somebody", "and", "of", "in", "on", "at", "to", "by", "for", "there"]
)  # fmt: skip


def told_of_gaps(column: Column) -> Iterator[tuple[tuple[str, ...], bool, float]]:
    """(stems of words, whether they say that nothing stands in the column, how sure) for what its description says."""
    for told in _TOLD.finditer(column.description.lower()):
        words = re.findall(r"[a-z]+", told["what"])
        denied = bool(_NOT & set(words[:3]))
        content = tuple(stem(w) for w in words if w not in _SMALL and w not in _NOT)
        missing = (told["how"] not in _FILLED) != denied
        if not 0 < len(content) <= 4:
            continue
        yield content, missing, 0.9
        if len(content) > 1:
            yield content[-1:], missing, 0.66
