"""Whether the reader knows names of some files' own: of tables, columns and values that are no everyday words.

Nothing that reads questions may be made for one set of data. So the words of the grammar and of the lexicon, and every
text that stands in the reader's code, are held against the names in any files.
"""

from __future__ import annotations

import ast
import json
import re
from collections.abc import Iterator
from pathlib import Path

from gumption.core import reading
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Role, Type
from gumption.core.reading import lexicon
from gumption.core.reading.tokens import stem
from gumption.core.reading.vocabulary import is_common
from tools.bench.packs import opened_pack

_FOLDER = Path(reading.__file__).parent
_EVERYDAY = frozenset(
    ["april", "because", "christmas", "dearest", "fahrenheit", "friday", "halloween", "somebody", "something",
     "unfinished", "valentine"]
)  # fmt: skip
"""Words that the list of common ones lacks, and that are of no data's own."""


def known_texts() -> dict[str, str]:
    """Every word and text that the reader knows, in small letters, with the file where it stands."""
    found: dict[str, str] = {}
    for path in sorted(_FOLDER.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Constant) and isinstance(node.value, str) and not node.value.count(" ") > 6:
                for text in (node.value, *re.findall(r"[^\W_]+", node.value)):
                    found.setdefault(text.lower(), path.name)
    for path in sorted((_FOLDER / "lexicon").glob("*.txt")):
        if path.name != "places.txt":
            for text in re.findall(r"[^\W_]+(?:_[^\W_]+)*", path.read_text(encoding="utf-8").lower()):
                found.setdefault(text, path.name)
    return found


def own_names(catalogue: Catalogue) -> Iterator[str]:
    """Names that hardly anything else has: written in parts or with capitals inside, or of proper nouns."""
    for table in catalogue.tables:
        yield from (n for n in (table.name, *(c.name for c in table.columns)) if _is_own(n))
        for column in table.columns:
            if column.type is Type.TEXT and column.role in (Role.NAME, Role.CATEGORY, Role.PLACE):
                for value in column.values[:2_000]:
                    words = re.findall(r"[^\W\d_]{5,}", value)
                    yield from (w for w in words if w[:1].isupper() and not w.isupper() and not _is_everyday(w))


def _is_own(name: str) -> bool:
    """True for a name such as wait_q3 or cnvNew that is more than everyday words put together."""
    if re.fullmatch(r"[qQ][1-4]", name):
        # The third quarter of any year.
        return False
    parts = [p.lower() for p in re.findall(r"[A-Z]?[a-z]+|[A-Z]+|\d+", name)]
    everyday = (is_common(stem(p)) or stem(p) in lexicon.concepts() or p in lexicon.fillers() for p in parts)
    return len(parts) > 1 and not all(everyday)


def _is_everyday(word: str) -> bool:
    places = lexicon.demonyms()
    return (
        word.lower() in _EVERYDAY
        or is_common(stem(word))
        or stem(word) in lexicon.concepts()
        or word.lower() in lexicon.phrase_words()
        or any(word.lower() in (w.lower(), *p) for w, p in places.items())
    )


def names_known(catalogue: Catalogue) -> dict[str, str]:
    """The names of a catalogue's own that the reader knows, each with the file where it stands."""
    texts = known_texts()
    return {name: texts[name.lower()] for name in sorted(set(own_names(catalogue))) if name.lower() in texts}


def bench_names(folders: list[Path]) -> int:
    """Print the names of packs that the reader knows. Returns how many packs have one."""
    packs = 0
    for folder in folders:
        about = json.loads((folder / "pack.json").read_text())
        known = names_known(opened_pack(folder, about).catalogue)
        packs += bool(known)
        for name, where in known.items():
            print(f"{folder.name}: {name} stands in {where}")
    print(f"{packs} of {len(folders)} packs have a name that the reader knows")
    return packs
