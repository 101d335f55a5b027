"""The tus 1.0 protocol (https://tus.io/protocols/resumable-upload): its four requests, and what the server says of itself."""

from __future__ import annotations

import base64
import binascii

from fastapi import APIRouter, Request, Response

from gumption.server.problems import ApiProblem
from gumption.server.shelf import At

VERSION = "1.0.0"
PIECES = "application/offset+octet-stream"
_OWN = {"Tus-Resumable": VERSION}

sent = APIRouter(prefix="/api/v1/workspaces/{workspace}/uploads", include_in_schema=False)
"""The routes of files sent piece by piece."""


def _metadata(header: str) -> dict[str, str]:
    """Upload-Metadata: names and values in Base64, parted by commas."""
    found = {}
    for pair in header.split(","):
        name, _, value = pair.strip().partition(" ")
        if name:
            try:
                found[name] = base64.b64decode(value, validate=True).decode("utf-8")
            except (binascii.Error, UnicodeDecodeError) as error:
                raise ApiProblem(400, f"The upload's {name} cannot be read.", "Send it in Base64.") from error
    return found


def _number(request: Request, header: str) -> int:
    text = request.headers.get(header, "")
    if not (text.isascii() and text.isdecimal() and len(text) <= 15):
        raise ApiProblem(400, f"The header {header} is missing or no number.", "Send it with the request.")
    return int(text)


def _same_version(request: Request) -> None:
    if request.headers.get("Tus-Resumable") != VERSION:
        raise ApiProblem(
            412, f"Uploads go by version {VERSION} of the tus protocol.", f"Send Tus-Resumable: {VERSION}."
        )


@sent.options("")
def options(at: At) -> Response:
    told = {"Tus-Version": VERSION, "Tus-Extension": "creation,termination", "Tus-Max-Size": str(at.uploads.limit)}
    return Response(status_code=204, headers={**_OWN, **told})


@sent.post("")
def create(at: At, request: Request) -> Response:
    _same_version(request)
    told = _metadata(request.headers.get("Upload-Metadata", ""))
    upload = at.uploads.create(
        told.get("filename", ""), _number(request, "Upload-Length"), told.get("replaces") or None
    )
    return Response(status_code=201, headers={**_OWN, "Location": f"{request.url.path}/{upload.id}"})


@sent.head("/{number}")
def head(at: At, number: str, request: Request) -> Response:
    _same_version(request)
    upload, have = at.uploads.get(number)
    told = {"Upload-Offset": str(have), "Upload-Length": str(upload.size), "Cache-Control": "no-store"}
    return Response(status_code=200, headers={**_OWN, **told})


@sent.patch("/{number}")
async def patch(at: At, number: str, request: Request) -> Response:
    _same_version(request)
    if request.headers.get("Content-Type") != PIECES:
        raise ApiProblem(415, f"A piece is sent as {PIECES}.")
    have = await at.uploads.append(number, _number(request, "Upload-Offset"), request)
    return Response(status_code=204, headers={**_OWN, "Upload-Offset": str(have)})


@sent.delete("/{number}")
def delete(at: At, number: str, request: Request) -> Response:
    _same_version(request)
    at.uploads.remove(number)
    return Response(status_code=204, headers=_OWN)
