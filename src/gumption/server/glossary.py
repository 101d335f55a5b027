"""The house's own words over HTTP: what else words could mean, and what a person said that they do."""

from __future__ import annotations

from fastapi import APIRouter

from gumption.core.model.term import Term
from gumption.server.asking import term_out
from gumption.server.problems import ApiProblem
from gumption.server.schemas import OptionOut, TermOut, WordsIn
from gumption.server.workspace import NotUnderstood, Workspace


def glossary_routes(workspace: Workspace) -> APIRouter:
    """The routes of words and their meanings."""
    router = APIRouter(prefix="/api/v1")

    @router.post("/words")
    def post_words(body: WordsIn) -> list[OptionOut]:
        """What else some words of a question could mean, the likeliest first; the last is to leave them out."""
        try:
            found = workspace.options(body.question, body.start, body.end, body.follows, body.terms)
        except ValueError as error:
            raise ApiProblem(422, "There is no word there.", "Choose a word of the question.") from error
        return [OptionOut(term=o.term, meaning=o.term.meaning, note=o.note) for o in found]

    @router.get("/terms")
    def get_terms() -> list[TermOut]:
        """All words of the house's own."""
        return [term_out(term) for term in workspace.records.terms()]

    @router.post("/terms")
    def post_term(body: Term) -> TermOut:
        """Keep what a word means, in place of what it meant before."""
        try:
            return term_out(workspace.define(body))
        except NotUnderstood as error:
            raise ApiProblem(422, str(error), "Say it by names of tables, columns and values.") from error

    @router.delete("/terms/{number}", status_code=204)
    def delete_term(number: int) -> None:
        if not workspace.undefine(number):
            raise ApiProblem(404, "That word was taken away already.", "Reload the page.")

    return router
