"""Questions that go beyond a figure: what they want to know, and the question about the figure inside of them.

“Why did income fall in March 2025” asks about “income in March 2025”. The words around it say what is wanted and are
taken out; what is left is read like any question, so that everything that can be asked about can be asked why.
"""

from __future__ import annotations

import dataclasses
import datetime as dt
import re
from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from gumption.core.model.names import plural
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import date_words
from gumption.core.reading import meaning as m
from gumption.core.reading.glossing import Gloss
from gumption.core.reading.schema import Nouns
from gumption.core.reading.times import Span, time_mentions, unit_span
from gumption.core.reading.tokens import Token, stem
from gumption.core.study.periods import Step

Direction = Literal["up", "down", ""]


class CannotStudy(Exception):
    """What is wanted beyond a figure cannot be had of it, and why."""


@dataclass(frozen=True)
class Planner:
    """How plans are made of meanings here, on a day."""

    nouns: Nouns
    plan_of: Callable[[m.Ask], Plan]
    day: dt.date


@dataclass(frozen=True)
class Frame:
    """Words around a question, with `q` and `r` for what is left of it, and an example."""

    pattern: str
    example: str
    level: bool = False
    """True where it asks why something is high or low, and not why it moved."""


@dataclass(frozen=True)
class Moved:
    """What moved a figure, and which way it is taken to have gone."""

    supposed: Direction = ""
    since: bool = False
    """True where the period that is named is the one before."""
    versus: bool = False
    """True where two sides are held against each other, the first before the second."""
    level: bool = False
    """True where it is high or low, and moved only if a time is named."""


@dataclass(frozen=True)
class Ahead:
    """What a figure will come to: so many periods on, or up to the end of a span that is to come."""

    count: int | None = None
    unit: Step | None = None
    low: dt.date | None = None
    high: dt.date | None = None
    whether: bool = False
    """True where it is asked whether it can be told at all."""
    weak: bool = False
    """True where a time to come alone says so: of what has days to come in the data it asks for these."""


@dataclass(frozen=True)
class Differs:
    """Whether groups differ in a figure; in a `total` they nearly always do, and what it comes to is asked."""

    total: bool = False
    counted: bool = False
    """True where it is said that rows are counted: the number of complications, and no share of what is so."""


@dataclass(frozen=True)
class Together:
    """How two figures go together from group to group, or from month to month where no groups are named."""

    grouped: bool
    told: bool
    """True where it is said what is worked out, such as an average or a number of rows."""


@dataclass(frozen=True)
class StandsOut:
    """What stands out in it."""


@dataclass(frozen=True)
class WhatWith:
    """What goes with it."""


@dataclass(frozen=True)
class Alike:
    """Groups of things that are alike."""

    by_numbers: bool = False
    """True where only numbers they go by tell it from a question for groups that are there."""


@dataclass(frozen=True)
class InWords:
    """What there is to say of it."""


@dataclass(frozen=True)
class Wish:
    """What is wanted beyond a figure, and the question about the figure alone."""

    tokens: list[Token]
    glosses: tuple[Gloss, ...]
    about: Moved | Ahead | Differs | Together | StandsOut | WhatWith | Alike | InWords
    of_all: bool = False
    """True where nothing is named, and all tables are meant."""
    of_kinds: Wish | None = None
    """What is wanted where both sides are columns of kinds and no figures."""


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

MOVED: tuple[Frame, ...] = (
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
        r"(?:so |and |but )?(?:why|how come|why is that|why so|explain (?:it|this|that)|what(?:'s| is) behind (?:it|this|that)|what moved (?:it|this|that)|what changed)",
        "why",
    ),
    Frame(
        r"what (?:(?:has |have |is |are )?changed (?:in |with |about |for )?|(?:is|are|was|were) different (?:in|with|about|for) )(?P<q>.+)",
        "what changed in income between 2024 and 2025",
    ),
    Frame(
        r"(?:so |and |but )?(?:why|how come) (?:(?:is|are|was|were)(?: there)?|(?:do|did) we (?:have|get|see)) (?:so )?"
        r"(?:(?P<up>more|many|much)|(?P<down>fewer|less|few|little)) (?P<q>.+?)(?: (?P<r>(?:in|at|for|on|during|than|compared) .+))?",
        "why were there fewer visits in March 2025",
    ),
    Frame(
        r"(?:so |and |but )?how come (?:the |our )?(?P<q>.+?) (?:is|are|was|were) (?:{much} )*(?:(?P<down>{lower})|(?P<up>{higher}))"
        r"(?: than (?:the |all )?(?:others?|rest|average|other \w+|elsewhere|usual))?(?: (?P<r>.+))?",
        "how come the average fee is lower at Millbeck",
        level=True,
    ),
    Frame(
        r"(?:so |and |but )?(?:why|how come) (?:is|are|was|were) (?P<q>.+?) (?:{much} )*(?:(?P<down>{lower})|(?P<up>{higher}))"
        r"(?: than (?:the |all )?(?:others?|rest|average|other \w+|elsewhere|usual))?(?: (?P<r>.+))?",
        "why is the average fee lower at Millbeck",
        level=True,
    ),
)  # fmt: skip
_MOVED = tuple(re.compile(f.pattern.format(**_PARTS)) for f in MOVED)
AHEAD: tuple[Frame, ...] = (
    Frame(
        r"(?:please |can you |could you |give me |show me |make )*(?:a |the |our )*(?:forecasts?|predict(?:ions?)?|projections?|project|outlook|estimate|extrapolate) (?:of |for |what )?(?:the |our )?(?P<q>.+)",
        "forecast visits for the next six months",
    ),
    Frame(
        r"(?P<w>can|could|is it possible to|are we able to) (?:(?:we|you|i|one) )?(?:forecast|predict|project) (?:the |our )?(?P<q>.+)",
        "can we forecast visits",
    ),
    Frame(
        r"(?P<w>can|could) (?:the |our )?(?P<q>.+?) (?:be )?(?:forecast|forecasted|predicted|projected|foretold)(?: (?P<r>.+))?",
        "can visits be forecast",
    ),
    Frame(
        r"(?:what|how much|how high|how low|how large) (?:will|would|should|is|are) (?:the |our )?(?P<q>.+?) (?:likely to )?(?:be|look like|come to|reach|amount to|going to be|expected to be)(?: like)?(?: (?P<r>.+))?",
        "what will income be next quarter",
    ),
    Frame(
        r"(?P<q>how (?:many|much) .+?) (?:will|should|can|do|are) (?:we|there|they|i) (?:expect|likely |going to )?(?: ?(?:to )?(?:be|have|get|see|make|sell|take|need|do))?(?: (?P<r>(?:in|for|over|next|by|during|until|this|the next|the coming|tomorrow) .+))",
        "how many visits will we have next month",
    ),
    Frame(
        r"(?:what is |what s |what's )?(?:the )?(?:expected|predicted|projected|forecast|likely|future) (?P<q>.+)",
        "expected visits in the next three months",
    ),
    Frame(
        r"(?:the )?(?P<q>.+?) (?:forecasts?|predictions?|projections?|outlook)(?: (?P<r>.+))?",
        "visits forecast for 2027",
    ),
    Frame(
        r"(?:where|how) (?:is|are) (?:the |our )?(?P<q>.+?) (?:heading|going|headed)(?: (?P<r>(?:in|over|next|by|for) .+))?",
        "where is income heading",
    ),
    Frame(
        r"(?P<weak>(?P<q>.+?) (?P<r>(?:in |over |for |during )?(?:the )?(?:next|coming) (?:\d+|[a-z]+) (?:days|weeks|months|quarters|years)))",
        "visits for dogs over the next 12 months",
    ),
)  # fmt: skip
_AHEAD = tuple(re.compile(f.pattern) for f in AHEAD)
_DIFFERS = "differ|differs|different|vary|varies|depend|depends|affected|influenced"
DIFFERS: tuple[Frame, ...] = (
    Frame(
        r"(?:is|are|was|were) there (?:an? |any )?(?:real |significant |statistically significant |clear |true |big |measurable )*differences? (?:in|of) (?:the )?(?P<q>.+?) (?P<by>between|across|among|by|from) (?:the |different )*(?P<g>.+)",
        "is there a difference in rating between clinics",
    ),
    Frame(
        rf"(?:does|do|did) (?:the )?(?P<q>.+?) (?:really |significantly |much |actually )*(?:{_DIFFERS}) (?:much |significantly )?(?P<by>between|across|among|by|with|from|on|upon)(?: one)? (?:the |different )*(?P<g>.+?)(?: to (?:another|the next))?",
        "does rating differ by clinic",
    ),
    Frame(
        rf"(?:is|are|was|were) (?:the )?(?P<q>.+?) (?:really |significantly |statistically |much |clearly )*(?:{_DIFFERS}) (?P<by>between|across|among|by|for|in|at|from)(?: one)? (?:the |different )*(?P<g>.+?)(?: to (?:another|the next))?",
        "is rating significantly different between clinics",
    ),
    Frame(
        rf"(?:do|does|did) (?:the )?(?P<g>.+?) have (?:an? )?(?:significantly |really |much )*(?:{_DIFFERS}) (?P<q>.+?) (?P<by>from|than|to) (?:the )?(?P<h>.+)",
        "do cats have a different average fee from dogs",
    ),
    Frame(
        r"(?:is|was) the difference in (?:the )?(?P<q>.+?) (?P<by>between|across|among|by) (?:the )?(?P<g>.+?) (?:statistically )?(?:significant|real|chance|due to chance|by chance)",
        "is the difference in rating between clinics significant",
    ),
    Frame(
        r"(?:does|do|did) (?:the |a |an |having )?(?P<g>.+?) (?:really )?makes? (?:a |any |much of a |a real )?difference (?P<by>to|for|in|with) (?:the )?(?P<q>.+)",
        "does the clinic make a difference to rating",
    ),
)  # fmt: skip
_DIFFERING = tuple(re.compile(f.pattern) for f in DIFFERS)
_TIES = "correlations?|links?|relations?|relationships?|associations?|connections?|ties?"
_TIED = (
    "correlated|linked|related|associated|connected|correlates?|goes|go|moves?|relates?|tracks?|follows?|rises?|falls?"
)
_EACH = r"(?: (?P<by>by|per|across|over|for each|for every|for all) (?:the |our |of )*(?P<g>.+))?"
TOGETHER: tuple[Frame, ...] = (
    Frame(
        rf"(?:is there |are there |what is |what's |what s |show |show me |find |give me |tell me )*(?:an? |any |the )*(?:strong |clear |significant |real )*(?:{_TIES}) (?:coefficient )?(?:between|of|for) (?:the )?(?P<q>.+?) (?P<and>and|with|to|vs) (?:the )?(?P<o>.+?){_EACH}",
        "correlation between income and average rating by clinic",
    ),
    Frame(
        rf"(?:do|does|did|is|are|how (?:strongly |closely |well |much |far )*(?:do|does|did|is|are)) (?:the )?(?P<q>.+?) (?:strongly |closely |well )*(?:(?:{_TIED}) (?:together )?(?P<and>with|to|in step with|along with)|(?P<tracks>tracks?|follows?|mirrors?)) (?:the )?(?P<o>.+?){_EACH}",
        "does income go with the number of visits by month",
    ),
    Frame(
        rf"(?:do|does|did|is|are|how (?:strongly |closely |well |much |far )*(?:do|does|did|is|are)) (?:the )?(?P<q>.+?) (?P<and>and) (?:the )?(?P<o>.+?) (?:strongly |closely |well )*(?:{_TIED})(?: together| in step| to each other)*{_EACH}",
        "do income and visits move together by month",
    ),
    Frame(
        rf"(?:please |can you )*correlate (?:the )?(?P<q>.+?) (?P<and>and|with|to|against) (?:the )?(?P<o>.+?){_EACH}",
        "correlate income with visits by month",
    ),
    Frame(
        rf"(?:the )?(?P<q>.+?) (?P<and>and|with|to|vs) (?:the )?(?P<o>.+?) correlation{_EACH}",
        "income and visits correlation by month",
    ),
)  # fmt: skip
_TYING = tuple(re.compile(f.pattern) for f in TOGETHER)
_WORKED_OUT = frozenset(
    ["average", "avg", "mean", "total", "number", "count", "median", "sum", "share", "percentage", "rate", "many", "no"]
)
"""Words that say what is worked out of rows."""
_ODD = (
    "odd|unusual|strange|weird|interesting|suspicious|surprising|remarkable|notable|noteworthy|abnormal|wrong|fishy|special"
    "|out of the ordinary|anomaly|anomalies|outlier|outliers|oddity|oddities|irregularity|irregularities|surprises"
)
STANDS_OUT: tuple[Frame, ...] = (
    Frame(
        rf"(?:is there |are there |was there |were there |do you see |can you |did you |find |find me |show me |show |see |spot |list |tell me |what is |what's |what are |what looks |what seems )*(?:anything |something |things |any |the |a |an |that is |that's )*(?:{_ODD})(?: (?:things?|patterns?|values?|going on|happening))*(?: (?:about|in|with|on|for|of|among|regarding) (?:the |our |my )?(?P<q>.+))?",
        "anything odd about rating",
    ),
    Frame(
        r"(?:so |and )?(?:what(?:'s| is| are| else is)? |anything )?(?:is )?(?:worth (?:a look|looking at|knowing|noting)|stands? out|sticks out|catches the eye|jumps out)(?: here)?(?: (?:in|about|for|with|of|on|at) (?:the |our |my )?(?P<q>.+))?",
        "what stands out in visits",
    ),
    Frame(
        r"(?:give me |any |show me |show |what are (?:the )?|tell me (?:the |some )?|find )?(?:the |some )?(?:key |main |top |interesting |important )*(?:insights?|highlights?|surprises)(?: (?:about|from|in|on|into|for|of) (?:the |our |my )?(?P<q>.+))?",
        "key insights on visits",
    ),
    Frame(
        r"(?:what should (?:i|we) (?:look at|know|worry about|watch)|surprise me|where should (?:i|we) look)(?: (?:in|about|for|with|of|on) (?:the |our |my )?(?P<q>.+))?",
        "what should I look at in visits",
    ),
)  # fmt: skip
_STANDING_OUT = tuple(re.compile(f.pattern) for f in STANDS_OUT)
_GOING_WITH = (
    "go(?:es)? (?:along |together )?with|predicts?|drives?|influences?|affects?|determines?|correlates? with|matters? (?:most )?(?:for|to)"
    "|(?:is|are) (?:most )?(?:related|linked|associated|connected|correlated) (?:to|with)|makes?(?: for)?|leads? to|depends? on"
    "|has an? (?:effect|influence|impact) on|have an? (?:effect|influence|impact) on|impacts?|decides?"
)
GOES_WITH: tuple[Frame, ...] = (
    Frame(
        rf"(?:what|which (?:\w+ )?(?:columns?|factors?|things?|fields?|variables?|attributes?)|what (?:factors?|things?|columns?)) (?:else )?(?:most |best |usually |typically |often |mostly )?(?:{_GOING_WITH}) (?:with )?(?:the |our |an |a |whether |if )*(?P<q>.+)",
        "what goes with a no-show",
    ),
    Frame(
        r"what does (?:the |our |an |a )*(?P<q>.+?) (?:depend on|go with|hang on|correlate with|go together with)",
        "what does rating depend on",
    ),
    Frame(
        r"(?:the )?(?:main |key |biggest |most important )*(?:predictors?|drivers?|factors?|influences?) (?:of|for|behind|in|on) (?:the |our |an |a )*(?P<q>.+)",
        "predictors of rating",
    ),
)  # fmt: skip
_GOES_WITH = tuple(re.compile(f.pattern) for f in GOES_WITH)
ALIKE: tuple[Frame, ...] = (
    Frame(
        r"(?:please |can you |could you |let us )*(?:cluster|segment) (?:the |our |all |my )*(?P<g>.+?)(?: (?:by|on|using|based on) (?:their )?(?P<q>.+))?",
        "cluster the owners by visits and total fee",
    ),
    Frame(
        r"(?:please |can you |could you )*(?:group|sort|put|divide|split) (?:the |our |all |my )*(?P<g>[^\d]+?) (?:into (?:natural |similar |meaningful |like )*(?:groups|clusters|segments)|that are alike)",
        "split the owners into groups",
    ),
    Frame(r"(?:please |can you |could you )*group (?:the |our |all |my )*(?P<g>\w+(?: \w+)?)", "group the owners"),
    Frame(
        r"(?:please |can you |could you )*(?:group|sort|divide|split) (?:the |our |all |my )*(?P<g>\w+(?: \w+)?) (?:by|on|based on|according to) (?:their )?(?P<n>.+)",
        "group the animals by weight and age",
    ),
    Frame(
        r"(?:find |show |what |which |are there )*(?:natural |similar |typical |different )*(?:groups|clusters|segments) of (?:the |our )*(?:similar |like )*(?P<g>.+?)(?: (?:are|do) (?:there|we have))?(?: (?:by|based on|using) (?:their )?(?P<q>.+))?",
        "what groups of owners are there",
    ),
    Frame(
        r"(?P<g>\w+) (?:segmentation|clusters|clustering)(?: (?:by|on) (?P<q>.+))?",
        "owner segmentation",
    ),
)  # fmt: skip
_ALIKE = tuple(re.compile(f.pattern) for f in ALIKE)
IN_WORDS: tuple[Frame, ...] = (
    Frame(
        r"(?:please |can you |could you )*(?:describe|summari[sz]e|sum up(?!.* (?:by|per|each|every) )|characteri[sz]e) (?:the |our |my |all )*(?P<q>.+?)(?: (?:table|data|sheet|for me|in words|briefly))*",
        "describe the visits",
    ),
    Frame(
        r"(?:please |can you |could you )*(?:give me |show me |write )?(?:a |an |the )?(?:short |brief |quick )*(?:overview|description|profile|portrait) (?:of|on|about) (?:the |our |my |all )*(?P<q>.+)",
        "an overview of the visits",
    ),
    Frame(
        r"(?:please |can you |could you )*tell me (?:everything |something |all )?about (?:the |our |my |all )*(?P<q>.+)",
        "tell me about the visits",
    ),
)  # fmt: skip
_IN_WORDS = tuple(re.compile(f.pattern) for f in IN_WORDS)
_COUNTS = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
    "eleven": 11, "twelve": 12, "a": 1, "couple": 2, "few": 3, "dozen": 12,
}  # fmt: skip
_UNITS: dict[str, Step] = {"day": "day", "week": "week", "month": "month", "quarter": "quarter", "year": "year"}
_HORIZON = re.compile(
    r"\b(?P<before>(?:for|over|in|during|of|to) )?(?:the )?(?P<next>(?:next|coming|following|upcoming) )?"
    rf"(?:(?P<n>\d+|{'|'.join(_COUNTS)}) )?(?:of )?(?P<unit>day|week|month|quarter|year)s?\b"
    r"(?P<behind> (?:ahead|on|out|forward|from now|to come)\b)?"
)
_GONE = re.compile(r"\b(?:last|past|previous|recent|latest)(?: few)? $")
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


def wish_of(tokens: list[Token], day: dt.date, names: Collection[str] = ()) -> Wish | None:
    """What a question, asked on a day, wants to know beyond a figure; None where it asks for no more than that.

    Words that stand in `names` of tables or columns are those, and ask for nothing: a budget has a forecast of its own.
    """
    said = _Said([t for t in tokens if t.kind != "symbol"])
    own = any(t.lower in names and t.lower in _FORETELLING for t in said.tokens)
    asking = said.tokens[1:] if is_told_to_group(said.tokens, names) else said.tokens
    told = any(stem(t.lower) in _NAMED and (t.lower in names or t.lower.removesuffix("s") in names) for t in asking)
    return (
        _moved(said)
        or _differs(said)
        or _together(said)
        or _stands_out(said)
        or (None if told else _goes_with(said))
        or (None if told else _alike(said))
        or _in_words(said)
        or (None if own else _ahead(said, day))
    )


def is_told_to_group(tokens: Sequence[Token], names: Collection[str]) -> bool:
    """True where a question begins by saying what to do with something: group visits by clinic.

    Where something in `names` is called a group, this is one only before a determiner: group the visits.
    """
    words = [t.lower for t in tokens[:2]]
    return len(words) == 2 and words[0] in _GROUPING and (words[1] in _DETERMINING or words[0] not in names)


class _Said:
    """A question's words as one text, in which each word knows its place."""

    def __init__(self, tokens: list[Token]) -> None:
        self.tokens = tokens
        self.places: list[int] = []
        text = ""
        for token in tokens:
            self.places.append(len(text))
            text += token.lower.replace("’", "'") + " "
        self.text = text.strip()

    def within(self, found: re.Match[str], *groups: str) -> list[Token]:
        """The words of parts of what was found."""
        spans = [found.span(g) for g in groups if g in found.re.groupindex and found[g]]
        return [
            token
            for token, at in zip(self.tokens, self.places, strict=True)
            if any(start <= at < end for start, end in spans)
        ]


def _has(found: re.Match[str], group: str) -> bool:
    return group in found.re.groupindex and bool(found[group])


def _fitting(frames: Sequence[re.Pattern[str]], said: _Said) -> re.Match[str] | None:
    """The first of some frames that all the words fit."""
    return next((found for frame in frames if (found := frame.fullmatch(said.text)) is not None), None)


def _moved(said: _Said) -> Wish | None:
    for frame, told in zip(_MOVED, MOVED, strict=True):
        found = frame.fullmatch(said.text)
        if found is None:
            continue
        kept = said.within(found, "q", "r")
        direction: Direction = "down" if _has(found, "down") else "up" if _has(found, "up") else ""
        glosses = tuple(_glosses([t for t in said.tokens if t not in kept], direction))
        if kept and all(_PERIOD.fullmatch(t.lower) or t.lower in _SMALL for t in kept):
            # Of nothing but a time it is how much there was that changed.
            kept = [_COUNT, *kept]
        inner, since = _held_against(kept)
        return Wish(inner, glosses, Moved(direction, since, any(t.lower == "vs" for t in inner), told.level))
    return None


def _differs(said: _Said) -> Wish | None:
    found = _fitting(_DIFFERING, said)
    if found is None:
        return None
    figure, by, groups = (said.within(found, g) for g in ("q", "by", "g"))
    if _has(found, "h"):
        # Cats and dogs, on either side of what is held against them.
        link = [dataclasses.replace(t, lower="and", stem=stem("and")) for t in by[:1]]
        groups, by = [*groups, *link, *said.within(found, "h")], []
    if figure and all(t.lower in _IT for t in figure):
        return None
    two = any(t.lower in ("and", "or", "vs") for t in groups)
    # Dogs and cats are named as they are; clinics are what it goes by.
    link = by[:1] if two else [dataclasses.replace(t, lower="by", stem=stem("by")) for t in by[:1]]
    glosses = tuple(
        Gloss(t.start, t.end, "operation", "whether they differ")
        for t in said.tokens
        if re.fullmatch(f"differences?|significant|significantly|{_DIFFERS}", t.lower)
    )
    words = {t.lower for t in figure}
    about = Differs(bool(words & {"total", "sum"}), bool(words & {"number", "count", "many", "total"}))
    return Wish([*figure, *link, *groups], glosses, about)


def _together(said: _Said) -> Wish | None:
    found = _fitting(_TYING, said)
    if found is None:
        return None
    one, link, other, by, groups = (said.within(found, g) for g in ("q", "and", "o", "by", "g"))
    if any(t.lower in ("and", "or") for t in (*one, *other)):
        # Three of them are held against each other two by two, which is a table of its own.
        return None
    link = link or said.within(found, "tracks")
    and_ = [dataclasses.replace(t, kind="word", lower="and", stem=stem("and")) for t in link[:1]]
    end = (other or one)[-1].end
    by = by[:1] or [Token("", "word", end, end, "by", stem("by"))]
    by = [dataclasses.replace(t, lower="by", stem=stem("by")) for t in by]
    each = groups or [Token("", "word", end, end, "month", stem("month"))]
    left = [t for t in said.tokens if re.fullmatch(f"{_TIES}|{_TIED}|correlate", t.lower) and t not in (*one, *other)]
    glosses = tuple(Gloss(t.start, t.end, "operation", "how they go together") for t in left)
    told = any(t.lower in _WORKED_OUT for t in (*one, *other))
    of_kinds = None if groups or told or not other else Wish([*one, *by, *other], glosses, Differs())
    return Wish([*one, *and_, *other, *by, *each], glosses, Together(bool(groups), told), of_kinds=of_kinds)


def _stands_out(said: _Said) -> Wish | None:
    found = _fitting(_STANDING_OUT, said)
    if found is None:
        return None
    kept = said.within(found, "q")
    left = [t for t in said.tokens if t not in kept]
    glosses = (Gloss(left[0].start, left[-1].end, "operation", "what stands out"),) if left else ()
    if kept and all(_PERIOD.fullmatch(t.lower) or t.lower in _SMALL for t in kept):
        kept = [_COUNT, *kept]
    return Wish(kept, glosses, StandsOut())


def _goes_with(said: _Said) -> Wish | None:
    found = _fitting(_GOES_WITH, said)
    if found is None:
        return None
    kept = said.within(found, "q")
    left = [t for t in said.tokens if t not in kept]
    glosses = tuple(Gloss(t.start, t.end, "operation", "what goes with it") for t in left if len(t.lower) > 3)
    return Wish(kept, glosses[:3], WhatWith())


_GROUPING = frozenset(["group", "cluster", "segment", "organise", "organize", "classify", "tabulate"])
_DETERMINING = frozenset(["the", "our", "all", "my", "these", "those", "them"])
_NAMED = frozenset(
    stem(w) for w in ("group", "cluster", "segment", "segmentation", "driver", "factor", "predictor", "influence")
)
"""Words that ask for groups or for what goes with something, where nothing here is called so."""


def _alike(said: _Said) -> Wish | None:
    found = _fitting(_ALIKE, said)
    if found is None:
        return None
    things, by = said.within(found, "g"), said.within(found, "q", "n")
    if not by and any(t.lower in ("by", "per", "for", "each", "in", "with") for t in things):
        # Owners grouped by their town are told by that, and form no groups of their own.
        return None
    left = [t for t in said.tokens if t not in things and t not in by]
    glosses = tuple(Gloss(t.start, t.end, "operation", "groups that are alike") for t in left if len(t.lower) > 4)
    if by:
        link = dataclasses.replace(things[-1], start=things[-1].end, end=things[-1].end, lower="by", stem=stem("by"))
        return Wish([*by, link, *things], glosses[:1], Alike(_has(found, "n")))
    return Wish(things, glosses[:1], Alike())


def _in_words(said: _Said) -> Wish | None:
    found = _fitting(_IN_WORDS, said)
    if found is None:
        return None
    kept = said.within(found, "q")
    left = [t for t in said.tokens if t not in kept]
    return Wish(kept, (Gloss(left[0].start, left[0].end, "operation", "in words"),), InWords())


def _ahead(said: _Said, day: dt.date) -> Wish | None:
    found = _fitting(_AHEAD, said)
    if found is None:
        return None
    kept = said.within(found, "q", "r")
    inner, ahead, named = _horizon(kept, day)
    whether = _has(found, "w")
    weak = _has(found, "weak")
    if weak and any(stem(t.lower) in _DUE for t in said.tokens):
        return None
    if ahead is None and not whether and not any(t.lower in _SURELY for t in said.tokens):
        return None
    glosses = [
        Gloss(t.start, t.end, "operation", "what is to come")
        for t in said.tokens
        if t not in kept and t.lower in _FORETELLING
    ]
    if named:
        glosses.append(Gloss(named[0].start, named[-1].end, "time", _horizon_words(ahead)))
    return Wish(inner, tuple(glosses), dataclasses.replace(ahead or Ahead(), whether=whether, weak=weak))


_FORETELLING = frozenset(
    ["forecast", "forecasts", "forecasted", "predict", "predicted", "prediction", "predictions", "project", "projected",
     "projection", "projections", "outlook", "expected", "future", "will", "heading", "headed", "extrapolate", "foretold",
     "expect"]
)  # fmt: skip

_SURELY = _FORETELLING - {"expected", "expect", "will", "future", "projected", "predicted"}
"""Words that ask for what is to come even where no time is named."""


_DUE = frozenset(
    stem(w)
    for w in (
        "end", "ending", "expire", "expiring", "due", "start", "starting", "begin", "renew", "renewal", "finish", "close", "mature",
        "scheduled", "booked", "planned", "arriving", "leaving", "joining", "upcoming", "open", "lapse", "fall",
    )
)  # fmt: skip
"""What has a day to come of its own, and is no matter of telling."""


def _horizon(tokens: list[Token], day: dt.date) -> tuple[list[Token], Ahead | None, list[Token]]:
    """The tokens without how far ahead is asked, that itself, and its tokens."""
    said = _Said(tokens)
    for found in _HORIZON.finditer(said.text):
        number, unit = found["n"], _UNITS[found["unit"]]
        counted = number is not None and (number not in ("a", "one") or found["before"] or found["behind"])
        if not (found["next"] or counted) or _GONE.search(said.text[: found.start()]):
            continue
        named = [t for t, at in zip(tokens, said.places, strict=True) if found.start() <= at < found.end()]
        left = [t for t in tokens if t not in named]
        if number is not None:
            return left, Ahead(int(number) if number.isdigit() else _COUNTS[number], unit), named
        span = unit_span(unit, day, 1)
        return left, Ahead(None, None, span.low, span.high), named
    for mention in time_mentions(tokens, day):
        span = _coming(mention.span, day)
        if span.high is None or span.high <= day:
            continue
        start = mention.start
        while start > 0 and tokens[start - 1].lower in _UP_TO:
            start -= 1
        named = tokens[start : mention.end]
        until = span.low is None or span.low <= day or any(t.lower in ("until", "till", "to", "through") for t in named)
        left = [*tokens[:start], *tokens[mention.end :]]
        return left, Ahead(None, None, None if until else span.low, span.high), named
    return tokens, None, []


def _coming(span: Span, day: dt.date) -> Span:
    """A month or quarter of any year as the next one to come."""
    if span.part not in ("month", "quarter") or len(span.numbers) != 1:
        return span
    first = span.numbers[0] if span.part == "month" else span.numbers[0] * 3 - 2
    year = day.year if first > day.month else day.year + 1
    return unit_span(span.part, dt.date(year, first, 1), 0)


_UP_TO = ("until", "till", "to", "through", "by", "in", "for", "during", "the", "end", "of", "up", "over")


def _horizon_words(ahead: Ahead | None) -> str:
    if ahead is None:
        return ""
    if ahead.count is not None and ahead.unit is not None:
        return plural(ahead.count, ahead.unit) + " on"
    return f"up to {date_words(ahead.high)}" if ahead.high is not None else ""


_IT = frozenset(["it", "this", "that", "them", "these", "those", "here"])
_ANSWER = frozenset(["answer", "result", "results", "figures"])


def is_of_the_answer(wish: Wish, names: Collection[str]) -> bool:
    """True where no figure is named but that of the answer before; `names` are words that things here are called by."""
    return all(t.lower in _IT or (t.lower in _ANSWER and t.lower not in names) for t in wish.tokens)


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
