"""`ask --explain`: the pieces of a question, the meanings they make, and what speaks for each, for a person."""

from __future__ import annotations

import datetime as dt

from gumption.core.reading.assemble import Candidate
from gumption.core.reading.read import QuestionReader
from gumption.core.reading.tokens import Token, tokenise
from gumption.core.reading.words import ask_words

MOST = 8


def explanation(reader: QuestionReader, question: str, as_of: dt.date) -> str:
    """The first few meanings of a question, one below the other."""
    tokens, spelling = reader.mended(tokenise(question))
    lines = [f"“{tokens[place].text}” is taken for “{better}”" for place, better in spelling.items()]
    for number, candidate in enumerate(reader.candidates(tokens, as_of, None)[:MOST], 1):
        lines += [*_lines(reader, number, candidate, tokens), ""]
    return "\n".join(lines) or "Nothing was found in it."


def _lines(reader: QuestionReader, number: int, candidate: Candidate, tokens: list[Token]) -> list[str]:
    lines = [f"{number}. {candidate.score:.2f}  {ask_words(candidate.ask, reader.known)}"]
    for edge in candidate.edges:
        words = " ".join(t.text for t in tokens[edge.start : edge.end])
        lines.append(f"     {edge.category:8} {edge.score:5.2f}  “{words}”  {edge.rule}")
    if candidate.unread:
        lines.append(f"     not read: {', '.join(tokens[p].text for p in candidate.unread)}")
    lines.append("     " + ", ".join(f"{name} {value:+.2f}" for name, value in candidate.features if value))
    return lines
