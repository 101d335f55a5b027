"""Distils WordNet's files to the stems of common English words, which the reader knows not to take for names.

A stem that is mostly that of a noun in the tagged texts has "noun" behind it.

    apt-get install wordnet-base
    PYTHONPATH=src python tools/distil_words.py /usr/share/wordnet > src/gumption/core/reading/common_stems.txt

A word is common where it is one word, written small, and was met at least once in WordNet's tagged texts.
"""

from __future__ import annotations

import collections
import re
import sys
from pathlib import Path

from gumption.core.reading.tokens import stem

KINDS = ("noun", "verb", "adj", "adv")


def small_forms(path: Path) -> set[str]:
    """Words written without a capital in a data file: each synset has a count in hexadecimal, then words and numbers."""
    found: set[str] = set()
    for line in path.read_text(encoding="latin-1").splitlines():
        if line.startswith("  "):
            continue
        fields = line.split(" ")
        found.update(re.sub(r"\(.*\)$", "", fields[4 + 2 * i]) for i in range(int(fields[3], 16)))
    return {word for word in found if re.fullmatch(r"[a-z]{3,}", word)}


def common_stems(folder: Path) -> list[str]:
    """Stems of all common words of the folder's files, in order; stemming them here spares every start of the program."""
    found: set[str] = set()
    for kind in KINDS:
        small = small_forms(folder / f"data.{kind}")
        for line in (folder / f"index.{kind}").read_text(encoding="latin-1").splitlines():
            if line.startswith("  "):
                continue
            fields = line.split()
            tagged = int(fields[5 + int(fields[3])])
            if tagged and fields[0] in small:
                found.add(fields[0])
    return sorted({stem(word) for word in found})


def nouns_of(folder: Path) -> set[str]:
    """Stems of words that are nouns more often than anything else in the tagged texts."""
    met: dict[str, collections.Counter[bool]] = collections.defaultdict(collections.Counter)
    for line in (folder / "cntlist.rev").read_text(encoding="latin-1").splitlines():
        # A sense is told by its word and its part of speech, of which 1 is a noun.
        sense, _, times = line.split()
        word, told = sense.split("%")
        if re.fullmatch(r"[a-z]{3,}", word):
            met[stem(word)][told.startswith("1:")] += int(times)
    return {word for word, times in met.items() if times[True] > times[False]}


if __name__ == "__main__":
    nouns = nouns_of(Path(sys.argv[1]))
    print("\n".join(f"{word} noun" if word in nouns else word for word in common_stems(Path(sys.argv[1]))))
