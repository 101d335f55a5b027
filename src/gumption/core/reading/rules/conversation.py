"""Words that ask, and words that lean on the question before."""

from __future__ import annotations

from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Asking, Marker, Shifted, Told

_GAP = "gap|gaps|shortfall|shortfalls|difference|differences|excess|overspend|overrun|overshoot|surplus"
_BEYOND = "over|under|above|below|less|more|higher|lower|short|beyond"

RULES = (
    Rule("ASK", "LIST", lambda _: Asking("list"), ("list",)),
    Rule("ASK", "WHICH", lambda _: Asking("which"), ("which",)),
    Rule("ASK", "WHO", lambda _: Asking("who"), ("who",)),
    Rule("ASK", "WHERE", lambda _: Asking("where"), ("where",)),
    Rule("ASK", "WHEN", lambda _: Asking("when"), ("when",)),
    Rule("MRK", "ALSO", lambda _: Marker("also"), ("too",)),
    Rule("MRK", "INSTEAD", lambda _: Marker("instead"), ("instead",)),
    Rule("MRK", "THOSE", lambda _: Marker("those"), ("those",)),
    Rule("MRK", "LIKEWISE", lambda _: Marker("same"), ("same for",)),
    Rule("MRK", "ONLY", lambda _: Marker("only"), ("only",), weight=-0.1),
    *(
        Rule("MRK", pattern, lambda *_: Marker("gap"), (example,), weight=weight)
        for pattern, example, weight in (
            ("DIFF between the? two|both|them", "the difference between the two", 0.1),
            ("gap|shortfall between the? two|both|them", "the gap between the two", 0.9),
            (f"HAVING the|their? {_GAP}", "with the gap", 0.05),
            (f",? and the|their? {_GAP}", "and the gap", 0.7),
            (",? and? by how much", "and by how much", 0.9),
            (f",? and? by? how much|many {_BEYOND} they|it|is|are|were|was?", "and how much over they", 0.9),
            (",? and? how much|many too much|many", "and how much too much", 0.9),
            (f",? HAVING? how much|many {_BEYOND}", "showing how much over", 0.6),
            (",? and what they|is still? owe|owed|owing|due|missing", "and what they still owe", 0.5),
        )
    ),
    *(
        Rule("MRK", pattern, lambda *_: Marker("each"), (example,), weight=0.7)
        for pattern, example in (
            (",? one by one", ", one by one"),
            (",? line by line", "line by line"),
            (",? row by row", "row by row"),
            (",? one at a time", "one at a time"),
            (",? individually|separately", "individually"),
            (",? each separately|individually", "each separately"),
            (",? each on its own", "each on its own"),
        )
    ),
    Rule("MRK", "of all time|times", lambda: Marker("idle"), ("of all time",), weight=0.6),
    *(
        # Whoever else counts too: nothing is left out.
        Rule("MRK", pattern, lambda *_: Marker("idle"), (example,), weight=0.9)
        for pattern, example in (
            (",? including|incl|counting WHO|THOSE|those|ones K", "including those overdue"),
            (", STATE|K|D included|inclusive", ", overdue included"),
            ("of|for|across|over everyone|everybody|everything", "of everyone"),
            ("ever employed|hired|worked|enrolled|registered here|us?", "ever employed"),
        )
    ),
    Rule("MRK", ",? DEF", lambda _: Marker("definition"), ("that is to say",), weight=-0.1),
    Rule("MRK", "(", lambda: Marker("definition"), ("(",), weight=0.3),
    Rule("MRK", "HAVING", lambda _: Marker("with"), ("with",), weight=-0.5),
    Rule("MRK", "BY", lambda _: Marker("by"), ("by",), weight=-0.7),
    *(
        Rule("MRK", pattern, lambda *_: Marker("their number"), (example,), weight=weight)
        for pattern, example, weight in (
            (",? and COUNT", "and how many", 0.45),
            (",? and COUNT each|they", "and how many each", 0.6),
            (",? and COUNT each|they|one|them one|of? has|have|had|did|do|made", "and how many each had", 0.7),
            (", HAVING the? number|count|numbers|counts", ", with the number", 0.6),
            (",? and the|their number|count|numbers|counts", "and their number", 0.6),
        )
    ),
    Rule("MRK", "OTHERS", lambda _: Marker("others"), ("the rest",)),
    Rule("MRK", "VERB", lambda kind: Marker("verb", kind), ("spend",), weight=-0.35),
    *(
        Rule("TOLDIN", f"in|as {words}", lambda u=unit: Told(u), (f"in {words.split('|')[0]}",), weight=0.75)
        for words, unit in (
            ("years", "years"),
            ("months", "months"),
            ("days", "days"),
            ("hours|hrs", "hours"),
            ("minutes|mins", "minutes"),
        )
    ),
    Rule("MRK", "stack|stacked|stacking it|them|that|this?", lambda: Marker("stack"), ("stack it",), weight=0.1),
    Rule(
        "MRK",
        ", just|only the? N counts|numbers|figures|totals|sums|averages",
        lambda _: Marker("idle"),
        (", just the two counts",),
        weight=0.9,
    ),
    Rule("SHF", "SHIFT", lambda unit: Shifted(unit), ("the month before",), weight=0.1),
    Rule("SHF", "SHIFT that", lambda unit: Shifted(unit), ("the month before that",), weight=0.15),
    Rule("MRK", "over|across|among all T|C", lambda _: Marker("idle"), ("over all clinics",), weight=-0.15),
    *(
        Rule("MRK", pattern, lambda *_: Marker("cross"), (example,), weight=-0.1)
        for pattern, example in (
            ("as|in|into a? CROSS", "as a cross table"),
            (", CROSS", ", cross table"),
            ("CROSS", "pivot table"),
            ("CROSS of|for|with", "cross table of"),
        )
    ),
    *(
        Rule("MRK", pattern, lambda *_: Marker("totals"), (example,), weight=weight)
        for pattern, example, weight in (
            ("HAVING a? grand? total|totals", "with totals", 0.6),
            ("HAVING row|rows and column|columns total|totals", "with row and column totals", 0.9),
            (
                "HAVING total|totals for|of|in rows|row|both and? columns|column|sides?",
                "with totals for rows and columns",
                0.9,
            ),
        )
    ),
    Rule("NP", "different|distinct|unique|individual C", lambda n: n, ("distinct species",), weight=0.15),
    Rule("MRK", "IDLE", lambda _: Marker("idle"), ("look after",), weight=-0.3),
)
