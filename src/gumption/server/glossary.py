"""The house's own words over HTTP: what a person said that they mean."""

from __future__ import annotations

from anyio.to_thread import run_sync
from fastapi import APIRouter, Request

from gumption.core.model.term import Term
from gumption.server.problems import ApiProblem
from gumption.server.schemas import TermOut
from gumption.server.shelf import At
from gumption.server.tasks import problem_of_term, term_out

words = APIRouter(prefix="/api/v1/workspaces/{workspace}")
"""The routes of words and their meanings."""


@words.get("/terms")
def get_terms(at: At) -> list[TermOut]:
    """All words of the house's own."""
    return [term_out(term) for term in at.workspace.records.terms()]


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
