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
    comparable,
    either_missing,
    is_gapless,
    no_missing,
)
from gumption.core.model.types import Type

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
    a, b = comparable(left, right)
    found = np.asarray(_OPERATORS[op](a, b), dtype=np.bool_)
    if is_gapless(missing):
        return found
    if op == "!=":
        return np.asarray((found | missing) & ~(left.missing & right.missing))
    return np.asarray(found & ~missing)


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
