"""Lines that are no rows: remarks of programs, and what stands on every page of a printed report."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from itertools import takewhile

from gumption.core.model.catalogue import Note
from gumption.core.model.names import plural
from gumption.intake.numbers import looks_numeric

_MARKERS = ("#", "//", "%", ";", "!")
_MOST_TITLES = 12
_MOST_ABOVE = 40
"""Lines among which the first page's head stands."""
_SHORT = 40
"""Characters of a line that only numbers a page."""
_DIGITS = re.compile(r"\d+")
_RULE = re.compile(r"[-=_+|\s.,;]*[-=_]{3}[-=_+|\s.,;]*")
_PAGE = re.compile(
    r"(page|seite|p[aá]gina|strona|sida|side|blad|стр\.?|страница)\s*:?\s*\d+(\s*(of|von|de|di|sur|van|z|av|af|из|/)\s*\d+)?",
    re.I,
)


def without_remarks(text: str, delimiter_of: Callable[[str], str | None]) -> tuple[str, Note | None]:
    """A text without the lines that a mark before them makes remarks; a marked line that names the columns stays, without the mark."""
    markers = [m for m in _MARKERS if re.search(rf"^[ \t]*{re.escape(m)}", text, re.M)]
    lines = text.split("\n") if markers else []
    for marker in markers:
        marked = _marked(lines, marker)
        filled = [i for i, line in enumerate(lines) if line.strip()]
        leading = list(takewhile(lambda i: i in marked, filled))  # noqa: B023
        rest = [lines[i] for i in filled if i not in marked]
        if len(rest) < 2:
            continue
        delimiter = delimiter_of("\n".join(rest))
        if marker == delimiter:
            continue
        inner = [
            i for i in sorted(marked.difference(leading)) if lines[i].strip()[len(marker) :][:1] in (" ", "\t", marker)
        ]
        if len(inner) > 0.5 * len(rest):
            inner = []
        gone = {*leading, *inner}
        if leading and _is_called_by_the_mark(lines[leading[-1]].strip(), marker, rest, delimiter):
            # The first column of a head may be called #.
            gone.discard(leading[-1])
        elif leading and _names_columns(lines[leading[-1]].strip().removeprefix(marker), rest, delimiter):
            gone.discard(leading[-1])
            lines[leading[-1]] = lines[leading[-1]].strip().removeprefix(marker).strip()
        if gone:
            first = [lines[i].strip()[:80] for i in sorted(gone)]
            act = f"{plural(len(gone), 'line')} of remarks {'was' if len(gone) == 1 else 'were'} left out"
            note = Note(act=act, key="remarks", rows=len(gone), examples=tuple(first[:3]))
            return "\n".join(line for i, line in enumerate(lines) if i not in gone), note
    return text, None


def _marked(lines: Sequence[str], marker: str) -> set[int]:
    """The lines that begin with a mark, none of them inside quotes."""
    found, quotes = set(), 0
    for place, line in enumerate(lines):
        if quotes % 2 == 0 and line.lstrip().startswith(marker):
            found.add(place)
        else:
            quotes += line.count('"')
    return found


def _names_columns(line: str, rest: Sequence[str], delimiter: str | None) -> bool:
    """True for the words of a head before rows that have none."""
    if delimiter is None:
        return False
    names, first = ([c.strip() for c in x.split(delimiter)] for x in (line, rest[0]))
    worded = all(c and not looks_numeric(c) for c in names)
    return worded and len(names) == len(first) > 1 and any(looks_numeric(c) for c in first)


def _is_called_by_the_mark(line: str, marker: str, rest: Sequence[str], delimiter: str | None) -> bool:
    """True for a head whose first cell is the mark itself, over rows as wide as it."""
    if delimiter is None or not line.startswith(marker + delimiter):
        return False
    return _names_columns("no" + line.removeprefix(marker), rest, delimiter)


def page_lines(keys: Sequence[str]) -> set[int]:
    """Of the lines of a report those that every page has: its titles, and on further pages the head and a rule below it.

    `keys` are the lines' texts. A page begins where a head that stood before comes again behind the titles that stood
    above it; numbers in the titles may differ.
    """
    numbers = {place for place, key in enumerate(keys) if len(key) < _SHORT and _PAGE.fullmatch(key.strip())}
    places: dict[str, list[int]] = {key.strip(): [] for key in keys[:_MOST_ABOVE]}
    for place, key in enumerate(keys):
        if (found := places.get(key.strip())) is not None:
            found.append(place)
    titles: set[str] = set()
    widest = 0
    for head in range(min(len(keys), _MOST_ABOVE)):
        text = keys[head].strip()
        if not text:
            continue
        again = [place for place in places[text] if place > head]
        cells = _cells(text)
        if titles and again and len(cells) > widest and _is_head(text):
            gone = [_page(keys, place, titles) for place in again]
            if all(gone):
                rules = _rules_below(keys, head)
                below = {place + k for place in again for k in range(1, rules + 1)}
                return {*range(head), *(p for page in gone for p in page), *below, *numbers}
        titles.add(_DIGITS.sub("0", text))
        if not _PAGE.search(text):
            widest = max(widest, len(cells))
        if len(titles) > _MOST_TITLES:
            break
    return numbers if len(numbers) > 1 else set()


def _is_head(text: str) -> bool:
    """True where a line has words of several columns, and no number among them."""
    cells = _cells(text)
    return len(cells) > 1 and not _RULE.fullmatch(text) and not any(map(looks_numeric, cells))


def _cells(text: str) -> list[str]:
    return [c.strip() for c in re.split(r"[,;|\t]|\s{2,}", text) if c.strip()]


def _page(keys: Sequence[str], head: int, titles: set[str]) -> list[int]:
    """The places of a further page's head and of what stands above it; nothing where no title does."""
    found, titled = [head], False
    for place in range(head - 1, -1, -1):
        text = keys[place].strip()
        if text and _DIGITS.sub("0", text) not in titles:
            break
        titled = titled or bool(text)
        found.append(place)
    return found if titled else []


def _rules_below(keys: Sequence[str], head: int) -> int:
    return sum(1 for _ in takewhile(lambda key: key.strip() and _RULE.fullmatch(key), keys[head + 1 :]))


def page_note(lines: int) -> Note:
    """What is said of the lines of further pages."""
    return Note(
        act=f"{plural(lines, 'line')} that pages of the report repeat {'was' if lines == 1 else 'were'} left out",
        key="pages",
        rows=lines,
    )
