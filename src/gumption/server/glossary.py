"""The house's own words over HTTP: what a person said that they mean."""

from __future__ import annotations

from anyio.to_thread import run_sync
from fastapi import APIRouter, Request

from gumption.core.model.term import Term
from gumption.server.asking import Asking
from gumption.server.problems import ApiProblem
from gumption.server.runs import Runs
from gumption.server.schemas import TermOut
from gumption.server.tasks import problem_of_term, term_out
from gumption.server.workspace import Workspace


def glossary_routes(workspace: Workspace, runs: Runs) -> APIRouter:
    """The routes of words and their meanings."""
    router, asking = APIRouter(prefix="/api/v1"), Asking(workspace, runs)

    @router.get("/terms")
    def get_terms() -> list[TermOut]:
        """All words of the house's own."""
        return [term_out(term) for term in workspace.records.terms()]

    @router.post("/terms")
    async def post_term(body: Term, request: Request) -> TermOut:
        """Keep what a word means, in place of what it meant before."""
        problem = await asking.work(request, "read", problem_of_term, body, workspace.as_of())
        if problem:
            raise ApiProblem(422, problem, "Say it by names of tables, columns and values.")
        return term_out(await run_sync(workspace.define, body))

    @router.delete("/terms/{number}", status_code=204)
    def delete_term(number: int) -> None:
        if not workspace.undefine(number):
            raise ApiProblem(404, "That word was taken away already.", "Reload the page.")

    return router
