"""Distils WordNet's files to the stems of common English words, which the reader knows not to take for names.

    apt-get install wordnet-base
    PYTHONPATH=src python tools/distil_words.py /usr/share/wordnet > src/gumption/core/reading/common_stems.txt

A word is common where it is one word, written small, and was met at least once in WordNet's tagged texts.
"""

from __future__ import annotations

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


if __name__ == "__main__":
    print("\n".join(common_stems(Path(sys.argv[1]))))
