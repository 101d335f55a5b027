"""What no table here can tell: a sum of dates, and what others outside do."""

from __future__ import annotations

from collections.abc import Sequence

from gumption.core.plan.words import spoken
from gumption.core.reading.tokens import Token
from gumption.core.reading.vocabulary import Vocabulary

_SUMMED = frozenset(["sum", "sums", "total", "totals"])
_SMALL = frozenset(["of", "the", "all", "up"])
_OTHERS = frozenset(["competitor", "competitors", "competitor's", "competitors'", "rivals", "rivals'", "rival's"])
_SURE = 0.95
_LONGEST_NAME = 3


def unanswerable(tokens: Sequence[Token], vocabulary: Vocabulary) -> str | None:
    """Why a question cannot be answered, whatever else is in it; None where nothing speaks against it."""
    return _summed_day(tokens, vocabulary) or _of_others(tokens, vocabulary)


def _summed_day(tokens: Sequence[Token], vocabulary: Vocabulary) -> str | None:
    for place, token in enumerate(tokens):
        if token.lower not in _SUMMED:
            continue
        start = place + 1
        while start < len(tokens) and tokens[start].lower in _SMALL:
            start += 1
        for size in range(_LONGEST_NAME, 0, -1):
            found = vocabulary.columns_for(tuple(t.stem for t in tokens[start : start + size]))[:1]
            if found and found[0][0] >= _SURE and start + size <= len(tokens):
                key = found[0][1]
                if vocabulary.column(key).type.is_time:
                    name = spoken(key.column)
                    return (
                        f"Dates cannot be added up. Ask for the earliest or the latest {name}, "
                        f"or for how many there are in each month of {name}."
                    )
                break
    return None


def _of_others(tokens: Sequence[Token], vocabulary: Vocabulary) -> str | None:
    for token in tokens:
        if (
            token.lower in _OTHERS
            and not vocabulary.columns_for((token.stem,))
            and not vocabulary.tables_for((token.stem,))
        ):
            return f"Only what stands in these tables can be told, and nothing here is about “{token.text}”."
    return None
