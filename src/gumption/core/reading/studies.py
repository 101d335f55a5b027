"""Questions that go beyond a figure: what they want to know, and the question about the figure inside of them.

“Why did income fall in March 2025” asks about “income in March 2025”. The words around it say what is wanted and are
taken out; what is left is read like any question, so that everything that can be asked about can be asked why.
"""

from __future__ import annotations

import dataclasses
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from gumption.core.reading.glossing import Gloss
from gumption.core.reading.tokens import Token, stem

Direction = Literal["up", "down", ""]


@dataclass(frozen=True)
class Frame:
    """Words around a question, with `q` and `r` for what is left of it, and an example."""

    pattern: str
    example: str


@dataclass(frozen=True)
class Wish:
    """What is wanted beyond a figure: what moved it, and which way it is taken to have gone."""

    tokens: list[Token]
    """The question about the figure alone."""
    glosses: tuple[Gloss, ...]
    supposed: Direction = ""
    since: bool = False
    """True where the period that is named is the one before."""
    versus: bool = False
    """True where two sides are held against each other, the first before the second."""


_DOWN = (
    "fall|falls|falling|fell|fallen|drop|drops|dropped|dropping|decline|declined|declining|decrease|decreased|decreasing"
    "|shrink|shrank|shrunk|sink|sank|sunk|slump|slumped|slide|slid|slip|slipped|dip|dipped|plunge|plunged|tumble|tumbled"
    "|worsen|worsened|(?:go|went|gone|going|come|came) down|fall off|fell off|collapse|collapsed"
)
_UP = (
    "rise|rises|rose|risen|rising|grow|grew|grown|growing|increase|increased|increasing|jump|jumped|climb|climbed|surge"
    "|surged|soar|soared|spike|spiked|improve|improved|(?:go|went|gone|going|come|came|pick|picked) up|double|doubled"
)
_EITHER = "change|changed|changing|move|moved|shift|shifted|differ"
_DOWN_NOUN = "fall|drop|decline|decrease|dip|slump|reduction|downturn|loss|plunge|collapse"
_UP_NOUN = "rise|increase|growth|jump|gain|surge|spike|improvement"
_EITHER_NOUN = "change|changes|difference|movement|move|swing|gap|shift"
_LOWER = "lower|low|less|worse|down|smaller|small|fewer|bad|poor|shorter|short|weaker|weak|below"
_HIGHER = "higher|high|more|better|up|bigger|big|larger|large|good|longer|long|stronger|strong|above"
_PARTS = {
    "why": "why|how come|what made|what makes",
    "aux": "did|does|do|has|have|had|is|are|was|were",
    "much": "(?:so|very|that|much|a lot|sharply|suddenly|strongly|still|far|again|badly|quite|even|all)",
    "down": _DOWN, "up": _UP, "either": _EITHER,
    "down_noun": _DOWN_NOUN, "up_noun": _UP_NOUN, "either_noun": _EITHER_NOUN,
    "lower": _LOWER, "higher": _HIGHER,
    "cause": (
        "(?:(?:please |can you |could you )?explain|what (?:explains|caused|drove|is behind|was behind|lies behind|led to"
        "|accounts for|is the reason for|was the reason for|are the reasons for|makes up|made up)|what's behind"
        "|(?:the )?(?:reasons?|causes?|drivers?)(?: for| of| behind)|why (?:was|is) there (?:a|an|such a)|why the|why such a"
        "|break down|take apart|decompose|analyse|analyze|account for)"
    ),
}  # fmt: skip
_LARGE = "(?:big |large |sharp |sudden |recent |strong |huge |steep )?"

FRAMES: tuple[Frame, ...] = (
    Frame(
        r"(?:so |and |but )?(?:{why}) (?:(?:{aux}) )?(?P<q>.+?) (?:(?:been|gone|be) )?(?:{much} )*"
        r"(?:(?P<down>{down})|(?P<up>{up})|(?:{either}))(?: {much})*(?: (?P<r>.+))?",
        "why did income fall in March 2025",
    ),
    Frame(
        rf"{{cause}} (?:the |our |this |that )?{_LARGE}(?:(?P<down>{{down_noun}})|(?P<up>{{up_noun}})|(?:{{either_noun}})) (?:in|of) (?P<q>.+)",
        "what caused the drop in income in March 2025",
    ),
    Frame(
        r"what (?:has |have )?(?:moved|drove|pushed|dragged|lifted|pulled) (?P<q>.+?)(?: (?:(?P<down>down)|(?P<up>up)))?(?: (?P<r>(?:in|during|from|between|since) .+))?",
        "what moved income in March 2025",
    ),
    Frame(
        r"what (?:has |have |is |are )?(?:changed|different) (?:in |with |about |for )?(?P<q>.+)",
        "what changed in income between 2024 and 2025",
    ),
    Frame(
        r"(?:so |and |but )?(?:why|how come) (?:(?:is|are|was|were) there|(?:do|did) we (?:have|get|see)) (?:so )?"
        r"(?:(?P<up>more|many|much)|(?P<down>fewer|less|few|little)) (?P<q>.+?)(?: (?P<r>(?:in|at|for|on|during|than|compared) .+))?",
        "why were there fewer visits in March 2025",
    ),
    Frame(
        r"(?:so |and |but )?(?:why|how come) (?:is|are|was|were) (?P<q>.+?) (?:{much} )*(?:(?P<down>{lower})|(?P<up>{higher}))"
        r"(?: than (?:the |all )?(?:others?|rest|average|other \w+|elsewhere|usual))?(?: (?P<r>.+))?",
        "why is the average fee lower at Millbeck",
    ),
)  # fmt: skip
_FRAMES = tuple(re.compile(f.pattern.format(**_PARTS)) for f in FRAMES)
_PERIOD = re.compile(
    r"(?:19|20)\d\d|q[1-4]|(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*|year|years|month|quarter|week|day"
    r"|yesterday|today|spring|summer|autumn|winter|now|monday|tuesday|wednesday|thursday|friday|saturday|sunday"
)
_PAIRS = (("between", ("and",)), ("from", ("to", "until", "till")))
_AGAINST = (
    ("compared", "with"), ("compared", "to"), ("compared", "against"), ("relative", "to"), ("against",), ("versus",),
    ("than", "in"), ("than", "at"), ("than", "for"), ("than", "on"), ("than",), ("vs",),
)  # fmt: skip


_SMALL = (
    "in",
    "on",
    "during",
    "between",
    "and",
    "from",
    "to",
    "since",
    "last",
    "this",
    "the",
    "vs",
    "against",
    "with",
    "compared",
)
_COUNT = Token("", "word", 0, 0, "count", stem("count"))


def wish_of(tokens: list[Token]) -> Wish | None:
    """What a question wants to know beyond a figure; None where it asks for no more than that."""
    said = [t for t in tokens if t.kind != "symbol"]
    places: list[int] = []
    text = ""
    for token in said:
        places.append(len(text))
        text += token.lower.replace("’", "'") + " "
    for frame in _FRAMES:
        found = frame.fullmatch(text.strip())
        if found is None:
            continue
        kept = [
            token
            for token, at in zip(said, places, strict=True)
            if any(found.start(g) <= at < found.end(g) for g in ("q", "r") if g in frame.groupindex and found[g])
        ]
        named = {way for way in ("down", "up") if way in frame.groupindex and found[way]}
        direction: Direction = "down" if "down" in named else "up" if named else ""
        glosses = tuple(_glosses([t for t in said if t not in kept], direction))
        if all(_PERIOD.fullmatch(t.lower) or t.lower in _SMALL for t in kept):
            # Of nothing but a time it is how much there was that changed.
            kept = [_COUNT, *kept]
        inner, since = _held_against(kept)
        return Wish(inner, glosses, direction, since, any(t.lower == "vs" for t in inner))
    return None


def _glosses(tokens: list[Token], direction: Direction) -> Iterator[Gloss]:
    """What the words around the question were read as."""
    said = {"down": "fell", "up": "rose", "": "what moved it"}[direction]
    for token in tokens:
        if token.lower in ("why", "what", "explain", "how"):
            yield Gloss(token.start, token.end, "operation", "what moved it")
        elif any(re.fullmatch(p, token.lower) for p in (_DOWN, _UP, _EITHER, _DOWN_NOUN, _UP_NOUN, _LOWER, _HIGHER)):
            yield Gloss(token.start, token.end, "operation", said)


def _held_against(tokens: list[Token]) -> tuple[list[Token], bool]:
    """The tokens with two sides held against each other in the one way that the reader knows; True for “since”."""
    words = [t.lower for t in tokens]
    for first, lasts in _PAIRS:
        if first not in words:
            continue
        start = words.index(first)
        end = next((i for i in range(start + 2, len(words) - 1) if words[i] in lasts), None)
        if end is not None:
            return [*tokens[:start], *tokens[start + 1 : end], _versus(tokens[end]), *tokens[end + 1 :]], False
    for phrase in _AGAINST:
        for at in range(1, len(words) - len(phrase)):
            if tuple(words[at : at + len(phrase)]) == phrase:
                return [*tokens[:at], _versus(tokens[at]), *tokens[at + len(phrase) :]], False
    if "since" in words[:-1] and any(_PERIOD.fullmatch(w) for w in words[words.index("since") + 1 :]):
        at = words.index("since")
        return [*tokens[:at], *tokens[at + 1 :]], True
    return tokens, False


def _versus(token: Token) -> Token:
    return dataclasses.replace(token, kind="word", lower="vs", stem=stem("vs"), meant=True)
