"""Functions of text: the work is done once a distinct word, not once a row."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import assert_never

import numpy as np

from gumption.core.evaluate.vectors import Vector, by_word, either_missing, mapped, text_vector
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex


def lowered(word: str) -> str:
    """Small letters, one for each letter: the last sigma of a word is like the others."""
    return word.lower() if word.isascii() else "".join(letter.lower()[0] for letter in word)


def raised(word: str) -> str:
    """Capitals, one for each letter: ß becomes ẞ, not SS."""
    return word.upper() if word.isascii() else "".join(map(_capital, word))


def _capital(letter: str) -> str:
    for found in (letter.upper(), letter.title()):
        if len(found) == 1:
            return found
    return "ẞ" if letter == "ß" else letter


def text_function(expression: ex.TextFunction, vector: Vector) -> Vector:
    """Letters changed, spaces cut off, or characters counted."""
    match expression.function:
        case "lower":
            return mapped(vector, lowered)
        case "upper":
            return mapped(vector, raised)
        case "trim":
            return mapped(vector, lambda word: word.strip(" "))
        case "length":
            return Vector(Type.INTEGER, by_word(vector, len, np.int64), vector.missing)
        case _:
            assert_never(expression.function)


def concatenate(parts: Sequence[Vector]) -> Vector:
    """Texts one behind another, missing where one of them is."""
    found = parts[0]
    for part in parts[1:]:
        assert found.words is not None and part.words is not None
        missing = either_missing(found, part)
        pairs = found.filled() * max(len(part.words), 1) + part.filled()
        distinct, codes = np.unique(pairs, return_inverse=True)
        if not (len(found.words) and len(part.words)):
            words: list[str] = [""] * len(distinct)
        else:
            lefts, rights = np.divmod(distinct, len(part.words))
            words = [found.words[a] + part.words[b] for a, b in zip(lefts, rights, strict=True)]
        found = text_vector(words, codes, missing)
    return found


def replaced(expression: ex.Replace, vector: Vector) -> Vector:
    """Every old part turned into the new one."""
    return mapped(vector, lambda word: word.replace(expression.old, expression.new))


def split_part(expression: ex.SplitPart, vector: Vector) -> Vector:
    """One part between separators."""

    def part(word: str) -> str | None:
        parts = word.split(expression.separator)
        return parts[expression.part - 1] or None if expression.part <= len(parts) else None

    return mapped(vector, part)


def sliced(expression: ex.Slice, vector: Vector) -> Vector:
    """Some characters of each text."""
    start = expression.start - 1
    return mapped(vector, lambda word: word[start : start + expression.length])


def extracted(expression: ex.Extract, vector: Vector) -> Vector:
    """What a regular expression finds first; an empty find counts as none."""
    compiled = re.compile(expression.pattern, re.ASCII)

    def find(word: str) -> str | None:
        match = compiled.search(word)
        return (match.group(compiled.groups) or None) if match else None

    return mapped(vector, find)
