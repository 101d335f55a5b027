"""The house's own words over HTTP: what a person said that they mean."""

from __future__ import annotations

from anyio.to_thread import run_sync
from fastapi import APIRouter, Request, Response, UploadFile

from gumption.core.model.names import plural
from gumption.core.model.style import written
from gumption.core.model.term import Term
from gumption.server.files_out import attached
from gumption.server.problems import ApiProblem
from gumption.server.schemas import KindOut, TermLookOut, TermOut, UnreadOut
from gumption.server.sending import term_out
from gumption.server.shelf import At
from gumption.server.tasks import problem_of_term
from gumption.server.terms_file import terms_as_csv, terms_of_csv
from gumption.server.words_looked_at import kinds_of_terms, look_at_term, unread_words

_MOST_BYTES = 1_000_000
_MOST_TOLD = 5
"""Words of a file of which it is told why they were not taken."""

words = APIRouter(prefix="/api/v1/workspaces/{workspace}")
"""The routes of words and their meanings."""


@words.get("/terms")
def get_terms(at: At) -> list[TermOut]:
    """All words of the house's own."""
    return [term_out(term) for term in at.workspace.records.terms()]


@words.get("/terms/kinds")
async def get_kinds(at: At, request: Request) -> dict[int, KindOut]:
    """What kind of word each is, and what it comes to in brief."""
    terms = await run_sync(at.workspace.records.terms)
    found = await at.asking.work(request, "answer", kinds_of_terms, terms, at.workspace.as_of())
    return {number: KindOut(kind=kind, value=value) for number, (kind, value) in found.items()}


@words.get("/terms/unread")
async def get_unread(at: At, request: Request) -> list[UnreadOut]:
    """Words of the latest questions that nothing here is called."""
    trail = await run_sync(at.workspace.records.trail, 200)
    found: list[UnreadOut] = await at.asking.work(request, "answer", unread_words, trail, at.workspace.as_of())
    return found


@words.get("/terms/file", include_in_schema=False)
def get_terms_file(at: At) -> Response:
    """All words as CSV, to be taken up by another workspace."""
    text = terms_as_csv(at.workspace.records.terms())
    return Response(text, media_type="text/csv", headers=attached("glossary.csv"))


@words.post("/terms/file")
async def post_terms_file(at: At, file: UploadFile, request: Request) -> list[TermOut]:
    """Words from a CSV as `terms/file` gives it; each takes the place of what the same word meant.

    Words that mean nothing here are not taken; which they are, and why, is told once the others are.
    """
    content = await file.read(_MOST_BYTES + 1)
    if len(content) > _MOST_BYTES:
        raise ApiProblem(413, "This file is far too large for a list of words.", "Send the one that was saved here.")
    terms, taken = terms_of_csv(content.decode("utf-8-sig", "replace")), list[TermOut]()
    day, left = at.workspace.as_of(), len(terms) + 1
    problems: list[str] = []
    while terms and len(terms) < left:
        # One word may be said by another that stands below it.
        left, problems, unclear = len(terms), [], []
        for term in terms:
            problem = await at.asking.work(request, "read", problem_of_term, term, day)
            if problem:
                problems.append(f"{term.words[0]}: {problem}")
                unclear.append(term)
            else:
                taken.append(term_out(await run_sync(at.workspace.define, term)))
        terms = unclear
    if problems:
        told = " ".join(problems[:_MOST_TOLD]) + (" …" if len(problems) > _MOST_TOLD else "")
        raise ApiProblem(
            422,
            f"{plural(len(taken), 'word')} taken, {written(len(problems))} not. {told}",
            "Mend these lines and send them again.",
        )
    return taken


@words.post("/terms/look", response_model=TermLookOut)
async def post_look(at: At, body: Term, request: Request) -> Response:
    """A word as it would be understood, and what it would change, before it is kept."""
    trail = await run_sync(at.workspace.records.trail, 200)
    given = body, trail, at.workspace.as_of()
    return Response(await at.asking.work(request, "answer", look_at_term, *given), media_type="application/json")


@words.post("/terms")
async def post_term(at: At, body: Term, request: Request) -> TermOut:
    """Keep what a word means, in place of what it meant before."""
    problem = await at.asking.work(request, "read", problem_of_term, body, at.workspace.as_of())
    if problem:
        raise ApiProblem(422, problem, "Say it by names of tables, columns and values.")
    return term_out(await run_sync(at.workspace.define, body))


@words.delete("/terms/{number}", status_code=204)
def delete_term(at: At, number: int) -> None:
    if not at.workspace.undefine(number):
        raise ApiProblem(404, "That word was taken away already.", "Reload the page.")
