"""Comparisons and tests, on NumPy columns. Each gives a plain mask: what is missing meets no comparison."""

from __future__ import annotations

import operator
import re
from collections.abc import Sequence
from typing import Literal

import numpy as np

from gumption.core.evaluate.texts import lowered
from gumption.core.evaluate.vectors import (
    Mask,
    Vector,
    by_word,
    either_missing,
    microseconds_of,
    no_missing,
    rescaled,
    shared_codes,
)
from gumption.core.model.types import Type
from gumption.core.plan.typing import MOST_SCALE

CompareOp = Literal["=", "!=", "<", "<=", ">", ">="]
_OPERATORS = {
    "=": operator.eq,
    "!=": operator.ne,
    "<": operator.lt,
    "<=": operator.le,
    ">": operator.gt,
    ">=": operator.ge,
}


def compare(op: CompareOp, left: Vector, right: Vector) -> Mask:
    """Where the comparison holds. `!=` is the negation of `=`, and false where both sides are missing."""
    missing = either_missing(left, right)
    a, b = _comparable(left, right)
    found = np.asarray(_OPERATORS[op](a, b), dtype=np.bool_)
    if missing.strides == (0,):
        return found
    if op == "!=":
        return np.asarray((found | missing) & ~(left.missing & right.missing))
    return np.asarray(found & ~missing)


def _comparable(left: Vector, right: Vector) -> tuple[np.ndarray, np.ndarray]:
    """Two columns as arrays that order and equal as their values do."""
    if left.type is Type.TEXT:
        return _texts(left, right)
    if left.type.is_time:
        if left.type is right.type:
            return left.values, right.values
        return microseconds_of(left), microseconds_of(right)
    if Type.DECIMAL in (left.type, right.type) and Type.FLOAT not in (left.type, right.type):
        scale = min(max(left.scale, right.scale), MOST_SCALE)
        return rescaled(left, scale), rescaled(right, scale)
    if Type.DECIMAL in (left.type, right.type):
        return left.floats(), right.floats()
    return left.values, right.values


def _texts(left: Vector, right: Vector) -> tuple[np.ndarray, np.ndarray]:
    """Against one word, places in the longer dictionary do: twice the code, odd where the word stands between two."""
    for one, many, turned in ((right, left, False), (left, right, True)):
        if one.words is not None and many.words is not None and len(one.words) == 1 < len(many.words):
            word = one.words[0]
            place = int(np.searchsorted(many.words, word))
            exact = place < len(many.words) and many.words[place] == word
            codes, key = many.values * 2, np.broadcast_to(np.int64(2 * place if exact else 2 * place - 1), (len(many),))
            return (key, codes) if turned else (codes, key)
    (a, b), _ = shared_codes(left, right)
    return a, b


def one_of(found: Vector, options: Sequence[Vector]) -> Mask:
    """Where the value equals one of several constants."""
    if found.type is Type.TEXT:
        wanted = {option.words[0] for option in options if option.words is not None}
        return present(found, by_word(found, lambda word: word in wanted, np.bool_))
    hit = np.zeros(len(found), dtype=np.bool_)
    for option in options:
        hit |= compare("=", found, option)
    return hit


def present(vector: Vector, mask: Mask) -> Mask:
    """A mask without the rows where the column is missing."""
    return mask if vector.is_complete else np.asarray(mask & ~vector.missing)


def text_match(how: Literal["contains", "starts", "ends"], vector: Vector, pattern: str) -> Mask:
    """Where text contains, starts or ends with a pattern, case aside."""
    small = lowered(pattern)
    tests = {
        "contains": lambda word: small in lowered(word),
        "starts": lambda word: lowered(word).startswith(small),
        "ends": lambda word: lowered(word).endswith(small),
    }
    return present(vector, by_word(vector, tests[how], np.bool_))


def pattern_match(vector: Vector, pattern: str) -> Mask:
    """Where a regular expression is found in the text."""
    compiled = re.compile(pattern, re.ASCII)
    return present(vector, by_word(vector, lambda word: compiled.search(word) is not None, np.bool_))


def is_missing(vector: Vector) -> Mask:
    """Where the value is missing."""
    return np.asarray(no_missing(len(vector)) if vector.is_complete else vector.missing)
