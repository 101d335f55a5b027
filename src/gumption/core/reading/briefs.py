"""Several questions in one text: a brief with headings, chatter and tasks, or two questions in one sentence.

The text is cut at lines, bullets, sentences and "and how many"; what is cut is kept only where its parts read better
than the whole. A sentence that only says for what ("all for the Millbeck clinic") holds for every task, a heading that
does for those below it. What asks nothing is left, and shown as left.
"""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace

from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.read import QuestionReader, Reading, Understanding
from gumption.core.reading.refer import pointing
from gumption.core.reading.times import UNITS, time_mentions
from gumption.core.reading.tokens import tokenise

LONGEST_BRIEF = 20_000
MOST_TASKS = 40
_BULLET = re.compile(
    r"^\s*(?:[-*•–—▪]|\(?\d{1,2}[.)]|\(?[a-z][.)]|(?:question|task|item|q|t)\s*\d{1,2}\s*[:.)-])\s+", re.IGNORECASE
)
_NUMBER_INSIDE = re.compile(r"(?:(?<=\s)|^)\(?(\d{1,2})[.)]\s+(?=[A-Za-z])")
_HEADING = re.compile(r"^\s*(?:#+\s+.*|\*\*.*\*\*|[^.?!]{1,60}:)\s*$")
_LONGEST_TITLE, _MOST_OF_A_TITLE = 8, 3
_GREETS = re.compile(r"\s*(?:hi|hello|hey|dear|good|morning|afternoon|evening)\b", re.IGNORECASE)
_TITLE = re.compile(r"^(?!.*\b(?:by|per|with|how|what|which|who|when|where)\b)\w[^.?!:,]{0,40}$", re.IGNORECASE)
"""A few words that stand over a list, without a colon."""
_ABBREVIATED = re.compile(
    r"(?:\b(?:e\.g|i\.e|no|nr|vs|approx|incl|excl|mr|mrs|ms|dr|st|max|min|avg|etc|mos?|mths?|yrs?|wks?|qtrs?|hrs?|mins|ave?|tot|qty|amt|acct|dept|resp|ca?|cf|cum)|\b[A-Z])\.$",
    re.IGNORECASE,
)
_SENTENCE = re.compile(r"(?<=[.?!;])\s+")
_ASKING = r"(?:how (?:many|much|long|old|often)|what|which|who|when|where|list|show|give|tell|compare|plot|draw)"
_CUTS = (
    re.compile(rf"\s*,\s*(?:and|then|also|plus|and also|and then)\s+(?={_ASKING}\b)", re.IGNORECASE),
    re.compile(rf"\s+(?:and|then|plus)\s+(?:also\s+)?(?={_ASKING}\b)", re.IGNORECASE),
    re.compile(rf"\s*,\s*(?={_ASKING}\b)", re.IGNORECASE),
    re.compile(r"\s*,?\s+and\s+(?:also\s+)?(?=the (?:number|total|average|share|percentage)\b)", re.IGNORECASE),
    re.compile(
        r"\s*,?\s+(?:and\s+)?(?:while you(?:'|’)?re at it|while we are at it|as a second thing|separately)[\s,]+",
        re.IGNORECASE,
    ),
    re.compile(r"(?<=\S)\s+and\s+(?=(?:\w+\s+){1,4}(?:by|per)\s)", re.IGNORECASE),
    re.compile(r"\s*,?\s+and\s+(?=(?:is|are|was|were|does|do|did)\s)", re.IGNORECASE),
)
_EACH_BY_ITSELF = re.compile(
    r"(?:\s*[,;&]\s*(?:and\s+)?|\s+and\s+)(?:(?:also|then|separately|as a second thing|apart from that)[\s,]+)?",
    re.IGNORECASE,
)
"""Between two things that may each be asked for by themselves."""
_ASKS_OF_IT = re.compile(
    r"\band (?:is|are|was|were|does|do|did|has|have) (?:that|it|this|they|these|those)\b", re.IGNORECASE
)
_ENDS = r"(?:\w{3,}est|(?:most|least) \w+|first|last|best|worst|top|bottom)"
_BOTH_ENDS = re.compile(
    rf"^(?P<before>.*?)\b(?:both\s+)?(?:the\s+)?(?P<one>{_ENDS})(?:\s+and\s+|\s*&\s*)(?:the\s+)?(?P<two>{_ENDS})\s+(?P<of>\w.*)$",
    re.IGNORECASE,
)
"""The oldest and the newest of something: two questions that share what they are of."""
_LEANS = re.compile(
    r"(?:for|by|per|in|of|with|without|since|between|before|after|from|until|till|during|at|on|within|across|among|over|under|if|when"
    r"|where|which|who|that|each|every|not|no|only|excluding|except|instead|then|(?:colou?r|shad|siz|sort|order|rank|stack|split|group|label)(?:ed|l?ing)|broken)\b",
    re.IGNORECASE,
)
"""How a part begins that says more of what stands before it, or behind."""
_OF_SOME = re.compile(r"(?:out )?(?:of|among|amongst|from) (?!(?:the )?(?:which|what|whose|whom)\b)", re.IGNORECASE)
"""How a part begins that says of what the rest is asked: of those who left, how many had a contract."""
_DRAWN = frozenset(["chart", "graph", "plot", "diagram", "histogram"])
_SAID_APART = re.compile(r"separately|second thing|apart from", re.IGNORECASE)
_HELD_TOGETHER = re.compile(
    r"\b(?:compar\w*|versus|vs|against|between|both|difference|ratio|change\w*|share|percentage|together|combined|from)\b|%",
    re.IGNORECASE,
)
_TWO_OF = re.compile(
    r"^.{0,40}\b(?:two|2|three|3) (?:things|questions|figures|numbers|lists|tables)\b[^:]{0,20}:\s*", re.IGNORECASE
)
_FOR_ALL = re.compile(
    r"^(?:and\s+)?(?:please\s+)?(?:note:?\s*)?(?:can (?:you|we)\s+)?(?:"
    r"(?:all|everything|each|every one)(?:\s+of\s+(?:it|this|these|them|that))?(?:\s+(?:below|above|here|is|are|should be|please))*"
    r"|(?:only|just)(?:\s+(?:use|consider|look at|count))?|use(?:\s+only)?|consider(?:\s+only)?"
    r"|(?:limit|restrict|keep)(?:\s+(?:it|this|that|them|everything|all))?\s+to|focus\s+on"
    r"|(?:the\s+|all\s+)?(?:figures|numbers|data|answers|questions|results)(?:\s+(?:are|should be|is))?"
    r"|(?:we|i)\s+(?:only|just)\s+(?:want|need|care about)"
    r")\s+",
    re.IGNORECASE,
)
_CLAUSE = re.compile(r"(?:\s*[,:;]|\s+[-–—])\s+")
_TAIL = re.compile(r"[\s,]*(?:please|thanks|thank you|only)?[\s.!?;:]*$", re.IGNORECASE)
_STARTS = re.compile(r"^(?:and|then|also|plus|next|finally|lastly)[\s,:]+", re.IGNORECASE)
_LEANING = ("and", "then", "also", "same", "now", "of those", "of these", "for those", "only", "just")


@dataclass(frozen=True)
class Task:
    """One question of a brief: as it stands there, and as it is asked with what holds for it."""

    own: str
    text: str
    understanding: Understanding
    follows: bool = False
    """True where it leans on the task before."""
    heading: str = ""
    """What it stands under in the text, at the first task that does."""


@dataclass(frozen=True)
class Brief:
    """A text as questions, with what holds for all of them and what asks nothing."""

    tasks: tuple[Task, ...]
    shared: tuple[str, ...] = ()
    left: tuple[str, ...] = ()


@dataclass(frozen=True)
class _Piece:
    text: str
    heading: bool = False
    item: bool = False
    """True for a line of a list, which stands by itself."""


@dataclass(frozen=True)
class _Cut:
    """A part of a sentence, and whether it leans on the part before."""

    text: str
    leans: bool = False


class _Reads:
    """Readings of one text's parts, each as a first question read once however often it is looked at."""

    def __init__(self, reader: QuestionReader, day: dt.date) -> None:
        self.reader, self.day = reader, day
        self._known: dict[str, Understanding] = {}

    def first(self, text: str) -> Understanding:
        if text not in self._known:
            self._known[text] = self.reader.read(text, self.day)
        return self._known[text]

    def after(self, earlier: Reading, text: str) -> Understanding:
        return self.reader.read(text, self.day, earlier)


def may_be_several(text: str) -> bool:
    """True for a text worth cutting: more than a line or a sentence, or two things asked in one."""
    plain = text.strip()
    several = len(_sentences(plain)) > 1 or "\n" in plain or _numbered_apart(plain) != plain
    apart = not _HELD_TOGETHER.search(plain) and any(len(plain[f.end() :].split()) > 1 for f in _pauses(plain))
    apart = apart or _BOTH_ENDS.match(plain) is not None
    return several or apart or any(cut.search(plain, 3) for cut in _CUTS)


def brief_of(text: str, reader: QuestionReader, day: dt.date) -> Brief:
    """A text cut into questions, each read. One question gives one task."""
    reads = _Reads(reader, day)
    shared: list[str] = []
    left: list[str] = []
    asked: list[tuple[str, str, bool, str]] = []
    scope = title = ""
    for piece in _pieces(_numbered_apart(text[:LONGEST_BRIEF])):
        told = _said_at_the_end(piece.text, reads, opens=piece.heading or _GREETS.match(piece.text) is not None)
        if told:
            shared.append(told)
        elif piece.heading:
            scope, title = _scope(piece.text, reads), piece.text
        elif _says_nothing(piece.text, reads):
            left.append(piece.text)
        else:
            parts = _cut(_STARTS.sub("", piece.text) if piece.item else piece.text, reads)
            asked += [(p.text, scope, p.leans, title if not i else "") for i, p in enumerate(parts)]
            title = ""
    tasks: list[Task] = []
    earlier: Reading | None = None
    for own, held, cut, title in asked[:MOST_TASKS]:
        task = _task(own, [*([held] if held else []), *shared], reads, earlier, leans=cut)
        tasks.append(replace(task, heading=title))
        if task.understanding.status == "answered":
            earlier = task.understanding.readings[0]
    left += [own for own, *_ in asked[MOST_TASKS:]]
    return Brief(tuple(tasks), tuple(shared), tuple(left))


def _numbered_apart(text: str) -> str:
    """A list whose numbers stand in one line, 1. this 2. that, each on a line of its own."""
    found = list(_NUMBER_INSIDE.finditer(text))
    if len(found) < 2 or [int(one[1]) for one in found] != list(range(1, len(found) + 1)):
        return text
    return _NUMBER_INSIDE.sub(lambda one: f"\n{one[0].strip()} ", text)


def _sentences(text: str) -> list[str]:
    found: list[str] = []
    for part in _SENTENCE.split(text):
        if found and _ABBREVIATED.search(found[-1]):
            found[-1] = f"{found[-1]} {part}"
        elif part.strip():
            found.append(part)
    return found


_SAID_OF_ALL = re.compile(r"\s*(?:all|only|everything)\b", re.I)


def _pieces(text: str) -> Iterator[_Piece]:
    """Lines and sentences; a line that goes on in the next one is one with it."""
    paragraph: list[str] = []
    item = False

    def ended() -> Iterator[_Piece]:
        for sentence in _sentences(" ".join(paragraph)):
            yield _Piece(sentence.strip(), item=item)
        paragraph.clear()

    lines = text.splitlines()
    for place, line in enumerate(lines):
        before = lines[place - 1] if place else ""
        following = [one for one in lines[place + 1 :] if one.strip()]
        # Between the title and the tasks it may be said for what all of them are.
        behind = next((one for one in following[:2] if not _SAID_OF_ALL.match(one)), "")
        bare = line.strip()
        bullet = _BULLET.match(line)
        titled = not bullet and not before.strip() and _BULLET.match(behind) and _TITLE.match(bare)
        heading = _HEADING.match(line) or (titled and len(bare.split()) <= _MOST_OF_A_TITLE)
        if not bare or bullet or heading:
            yield from ended()
            item = bullet is not None
        if not bare:
            continue
        if bullet:
            paragraph.append(line[bullet.end() :].strip())
        elif heading:
            yield _Piece(bare.strip("#* ").removesuffix(":").strip("* "), heading=True)
        elif paragraph and (paragraph[-1].endswith((".", "?", "!", ";")) or bare[:1].isupper()):
            yield from ended()
            paragraph.append(bare)
        else:
            paragraph.append(bare)
    yield from ended()


def _content(text: str) -> list[str]:
    """The words of a text that are no chatter."""
    known = lexicon.chatter() | lexicon.fillers()
    return [t.lower for t in tokenise(text) if t.kind != "symbol" and t.lower not in known]


def _says_nothing(text: str, reads: _Reads) -> bool:
    """True for greetings, thanks and sentences of which nothing here is called by a word."""
    words = _content(text)
    if not words:
        return True
    found = reads.first(text)
    if found.status == "answered" or found.status == "told":
        return False
    asks = re.search(rf"\b{_ASKING}\b|\?", text, re.IGNORECASE) is not None
    return not asks and len(found.unread) >= 0.5 * len(words)


def _only_conditions(text: str, reads: _Reads) -> bool:
    """True for words that say nothing but for what: values, times and states."""
    tokens = tokenise(text)
    if any((t.start, t.end) == (0, len(tokens)) for t in time_mentions(tokens, reads.day)):
        return True
    found = reads.first(text)
    if found.status != "answered" or found.unread:
        return False
    ask = found.readings[0].ask
    return ask.lists and bool(ask.where) and ask.limit is None and not ask.shows


def _said_of_all(text: str, reads: _Reads) -> str:
    """What a sentence says of every task; nothing where it is a task itself."""
    opened = _FOR_ALL.match(text)
    if opened is None or "?" in text:
        return ""
    told = _TAIL.sub("", text[opened.end() :]).removeprefix("for ")
    ways = (told, f"in {told}", f"for {told}") if told else ()
    return next((way for way in ways if _only_conditions(way, reads)), "")


def _said_at_the_end(text: str, reads: _Reads, *, opens: bool) -> str:
    """What a sentence says of every task, also behind a greeting: Hi, for the board, all for the Millbeck clinic.

    One that opens a list asks nothing itself, whatever its first part could be read as.
    """
    if told := _said_of_all(text, reads):
        return told
    for comma in _CLAUSE.finditer(text):
        if not opens and not _says_nothing(text[: comma.start()], reads):
            break
        if told := _said_of_all(text[comma.end() :], reads):
            return told
    return ""


def _scope(heading: str, reads: _Reads) -> str:
    """What a heading says of the tasks below it: all of it, or the time that it names beside its title."""
    if not _content(heading) or _only_conditions(heading, reads):
        return heading if _content(heading) else ""
    tokens = tokenise(heading)
    times = [t for t in time_mentions(tokens, reads.day) if t.span.part is None and t.span.low and t.span.high]
    if not times or len(tokens) > _LONGEST_TITLE:
        return ""
    widest = max(times, key=lambda t: t.end - t.start)
    if any(t.start < widest.start or t.end > widest.end for t in times):
        return ""
    return heading[tokens[widest.start].start : tokens[widest.end - 1].end]


def _lost(found: Understanding) -> int:
    """How badly a text is read: words that are not, and more where there is no answer at all."""
    if found.status == "told":
        return 0
    return len(found.unread) + (0 if found.status == "answered" else 3)


def _cut(text: str, reads: _Reads) -> list[_Cut]:
    """A sentence as one question, or as two where they are read better apart."""
    text = _TWO_OF.sub("", text)
    if (parts := _each_by_itself(text, reads)) is not None:
        return parts
    whole = reads.first(text)
    if (ends := _both_ends(text, whole, reads)) is not None:
        return ends
    if not _lost(whole) and whole.status == "answered" and not whole.doubt and not _ASKS_OF_IT.search(text):
        return [_Cut(text)]
    for cut in _CUTS:
        for found in cut.finditer(text, 3):
            one, two = text[: found.start()].strip(), text[found.end() :].strip()
            if len(_content(one)) < 2 or len(_content(two)) < 1:
                continue
            if _OF_SOME.match(one):
                continue
            first = reads.first(one)
            if first.status != "answered" or first.unread:
                continue
            second = reads.after(first.readings[0], two)
            if _lost(second) or (_lost(first) >= _lost(whole) and not _asks_twice(text)):
                continue
            other, *more = _cut(two, reads)
            return [_Cut(one), replace(other, leans=True), *more]
    return [_Cut(text)]


def _each_by_itself(text: str, reads: _Reads) -> list[_Cut] | None:
    """Two things each of which has what it is told by or of beside it: visits by clinic and income by month."""
    if _HELD_TOGETHER.search(text):
        return None
    for found in _pauses(text):
        halves = text[: found.start()].strip(), text[found.end() :].strip()
        apart = _SAID_APART.search(found[0]) is not None
        if any(len(_content(half)) < (1 if apart else 2) for half in halves) or any(
            UNITS.keys() >= {*_content(half)} or _LEANS.match(half) for half in halves
        ):
            # Year on year, or for each clinic, is how and of what, and no question.
            continue
        if any(t.lower in _DRAWN for t in tokenise(halves[0])[-1:]):
            # "Area chart, visits by month" says first how it is to be drawn.
            continue
        one, two = map(reads.first, halves)
        lists = all(u.readings and u.readings[0].ask.lists for u in (one, two))
        if lists and _content(halves[1])[0] not in _content(halves[0]):
            # Jobs finished in March and booked in April are jobs once; jobs in March and jobs in April are named twice.
            continue
        if all(u.status == "answered" and not u.unread for u in (one, two)) and (
            apart or _differ(one.readings[0].ask, two.readings[0].ask)
        ):
            return [_Cut(halves[0]), *(_each_by_itself(halves[1], reads) or [_Cut(halves[1])])]
    return None


def _both_ends(text: str, whole: Understanding, reads: _Reads) -> list[_Cut] | None:
    """The oldest and the newest visit, each by itself; the highest and the lowest fee are two figures of one answer."""
    found = _BOTH_ENDS.match(text)
    figures = whole.status == "answered" and len(whole.readings[0].ask.quantities) > 1
    if found is None or figures:
        return None
    parts = [f"{found['before']}the {found[end]} {found['of']}" for end in ("one", "two")]
    read = [reads.first(part) for part in parts]
    if any(_lost(u) or u.status != "answered" for u in read) or read[0].readings[0].ask == read[1].readings[0].ask:
        return None
    return [_Cut(part) for part in parts]


def _pauses(text: str) -> Iterator[re.Match[str]]:
    """Where a text may be cut in two that both say something."""
    return (found for found in _EACH_BY_ITSELF.finditer(text) if found.start() > 3)


def _differ(one: m.Ask, two: m.Ask) -> bool:
    """True where what one tells and of what are its own, and the other's too."""
    if one.head != two.head and one.lists and two.lists:
        return False
    told_by = bool(one.groups) and bool(two.groups) and one.groups != two.groups
    told_of = bool(one.where) and bool(two.where) and one.where != two.where
    if one.lists or two.lists:
        return one.lists and two.lists and told_of and one.head == two.head
    return told_of or (told_by and one.quantities != two.quantities)


def _asks_twice(text: str) -> bool:
    if _ASKS_OF_IT.search(text):
        return True
    return len(re.findall(rf"\b{_ASKING}\b", text, re.IGNORECASE)) > 1


def _task(own: str, holds: list[str], reads: _Reads, earlier: Reading | None, *, leans: bool) -> Task:
    """A task with what holds for it; one that leans on the task before has that from there."""
    words = [t.lower for t in tokenise(own) if t.kind != "symbol"]
    text = ", ".join([_TAIL.sub("", own) if holds else own, *(h for h in holds if h.lower() not in own.lower())])
    fresh = reads.first(text)
    opened = own.lower().startswith(tuple(f"{w} " for w in _LEANING))
    if earlier is not None and (pointing(words) or leans or opened or _lost(fresh)):
        found = reads.after(earlier, own)
        if found.status == "answered" and found.readings[0].follows and _lost(found) <= _lost(fresh):
            return Task(own, own, found, follows=True)
    return Task(own, text, fresh)
