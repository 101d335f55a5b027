"""Pages and answers that are read by a link: as they came out last, without a way to anything else."""

from __future__ import annotations

import base64
import functools
import hashlib

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from gumption.core.folio.as_html import scripts_of
from gumption.engines.printing import library, page_html
from gumption.server.folio_pages import Folio
from gumption.server.problems import ApiProblem
from gumption.server.shelf import Shelf
from gumption.store.folio import FolioRecords

linked = APIRouter()
"""The route of links."""


_NOBODY = "'none'"


@functools.cache
def _rules(frames: tuple[str, ...]) -> str:
    """What such a page may do: draw its charts by the very scripts that we put there, and nothing else."""
    digests = (base64.b64encode(hashlib.sha256(s.encode()).digest()).decode() for s in scripts_of(library()))
    scripts = " ".join(f"'sha256-{digest}'" for digest in digests)
    return (
        f"default-src 'none'; script-src {scripts}; style-src 'unsafe-inline'; img-src data:; base-uri 'none'; "
        f"form-action 'none'; frame-ancestors {' '.join(frames) or _NOBODY}"
    )


@linked.get("/s/{token}", include_in_schema=False)
def get_linked(token: str, request: Request) -> HTMLResponse:
    """What a link leads to. Raises ApiProblem where it was withdrawn, has ended, or never was."""
    shelf: Shelf = request.app.state.shelf
    link = FolioRecords(shelf.records_of(0)).linked(token) if len(token) == 43 else None
    if link is None:
        raise ApiProblem(404, "This link leads nowhere.", "It has ended or was withdrawn; ask who sent it for another.")
    folio = Folio(shelf.room(link.workspace).workspace)
    text = page_html(folio.document(link.page, only=link.part))
    rules = _rules(request.app.state.frames)
    return HTMLResponse(text, headers={"Cache-Control": "no-store", "Content-Security-Policy": rules})
