"""What no table here can tell: a sum of dates, and what others outside do."""

from __future__ import annotations

from collections.abc import Sequence

from gumption.core.model.types import Role
from gumption.core.plan.words import spoken
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.tokens import Token
from gumption.core.reading.vocabulary import Vocabulary, name_parts

_SUMMED = frozenset(["sum", "sums", "total", "totals"])
_AVERAGED = frozenset(["average", "mean", "avg", "median"])
_NUMBERS = frozenset(["id", "no", "nr", "number", "code", "ref"])
_ADDS = frozenset(["add", "create", "insert", "enter", "record", "register", "make"])
_SMALL = frozenset(["of", "the", "all", "up"])
_OTHERS = frozenset(["competitor", "competitors", "competitor's", "competitors'", "rivals", "rivals'", "rival's"])
_OF_YOU = (["you", "cost"], ["made", "you"], ["built", "you"], ["your", "name"])
_SHORT = 6
_SURE = 0.95
_LONGEST_NAME = 3


def unanswerable(tokens: Sequence[Token], vocabulary: Vocabulary) -> str | None:
    """Why a question cannot be answered, whatever else is in it; None where nothing speaks against it."""
    return (
        _summed_day(tokens, vocabulary)
        or _averaged_number(tokens, vocabulary)
        or _of_others(tokens, vocabulary)
        or _new_row(tokens)
        or _of_this_program(tokens)
        or _to_be_decided(tokens)
    )


def _summed_day(tokens: Sequence[Token], vocabulary: Vocabulary) -> str | None:
    for place, token in enumerate(tokens):
        if token.lower in _SUMMED and (key := _named_behind(tokens, place, vocabulary)) is not None:
            if vocabulary.column(key).type.is_time:
                name = spoken(key.column)
                return (
                    f"Dates cannot be added up. Ask for the earliest or the latest {name}, "
                    f"or for how many there are in each month of {name}."
                )
    return None


def _averaged_number(tokens: Sequence[Token], vocabulary: Vocabulary) -> str | None:
    for place, token in enumerate(tokens):
        if token.lower in _AVERAGED and (key := _named_behind(tokens, place, vocabulary)) is not None:
            column = vocabulary.column(key)
            if column.role is Role.IDENTIFIER and name_parts(key.column)[-1] in _NUMBERS:
                return f"{spoken(key.column)} tells rows apart, and there is no average of it. Ask how many there are."
    return None


def _named_behind(tokens: Sequence[Token], place: int, vocabulary: Vocabulary) -> ColumnKey | None:
    """The column whose whole name stands right behind a word, each part of it said."""
    start = place + 1
    while start < len(tokens) and tokens[start].lower in _SMALL:
        start += 1
    for size in range(_LONGEST_NAME, 0, -1):
        said = tokens[start : start + size]
        for score, key in vocabulary.columns_for(tuple(t.stem for t in said))[:1]:
            if score >= _SURE and len(said) == size == len(name_parts(key.column)):
                return key
    return None


def _new_row(tokens: Sequence[Token]) -> str | None:
    words = [t.lower for t in tokens if t.kind == "word"]
    if words[:1] and words[0] in _ADDS and words[1:2] in (["a"], ["an"], ["another"]) and words[2:3] == ["new"]:
        return "The data are not changed here: bring in a file with what is new, and ask again."
    return None


def _of_this_program(tokens: Sequence[Token]) -> str | None:
    """What the program itself costs, or who made it, stands in nobody's tables."""
    words = [t.lower for t in tokens if t.kind == "word"]
    if len(words) <= _SHORT and any(words[p : p + 2] in _OF_YOU for p in range(len(words))):
        return "That is about this program, and questions here are about the data. Ask something of the tables."
    return None


def _to_be_decided(tokens: Sequence[Token]) -> str | None:
    """Whether something should be done is for people to say; what the data show of it can be asked."""
    words = [t.lower for t in tokens if t.kind == "word"]
    if words[:1] == ["should"] and words[1:2] in (["we"], ["i"], ["they"]):
        return (
            "What should be done is not for the data to say. Ask how many there are, what they come to or how it went."
        )
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
