"""Series by their code, from the feed that the administrator chose (docs/feed.md)."""

from __future__ import annotations

import datetime as dt
from typing import Any
from urllib.parse import quote

import httpx
from pydantic import BaseModel, Field, TypeAdapter, ValidationError

from gumption.intake.errors import UnreadableFile

_SECONDS = 10.0


class SeriesOfFeed(BaseModel):
    """One series that the feed has."""

    code: str = Field(max_length=100)
    name: str = Field(max_length=500)
    unit: str = Field(default="", max_length=100)
    kind: str = Field(default="", max_length=100)
    first: dt.date | None = None


_LIST = TypeAdapter(list[SeriesOfFeed])


def series_at(feed: str, about: str = "") -> list[SeriesOfFeed]:
    """The series of a feed whose code or name holds the words. Raises UnreadableFile where it does not say."""
    try:
        return _LIST.validate_python(_asked(feed, {"about": about} if about else {}))
    except (httpx.HTTPError, httpx.InvalidURL, ValidationError, ValueError) as error:
        raise silent(feed) from error


def series_called(code: str, feed: str) -> SeriesOfFeed:
    """The series of a code. Raises UnreadableFile where the feed has none such, with those that are near."""
    wanted = code.strip().upper()
    listed = series_at(feed)
    found = next((s for s in listed if s.code.upper() == wanted), None)
    if found is None:
        codes = [s.code for s in listed]
        some = ", ".join(codes[:12]) + (" …" if len(codes) > 12 else "")
        raise UnreadableFile(code, f"the feed has no series {code}.", f"It has {some}.", found=code, accepted=codes)
    return found


def address_of(code: str, feed: str, begin: dt.date | None = None) -> str:
    """Where a series of a feed is, from a day on."""
    since = f"?begin={begin}" if begin is not None else ""
    return f"{feed.rstrip('/')}/series/{quote(code, safe='')}{since}"


def silent(feed: str) -> UnreadableFile:
    """What is said of a feed that does not answer as one does."""
    return UnreadableFile(feed, "the feed of series does not answer.", "Try again, or see to its service.")


def _asked(feed: str, told: dict[str, str]) -> Any:
    with httpx.Client(timeout=_SECONDS, follow_redirects=False, trust_env=False) as client:
        answer = client.get(f"{feed.rstrip('/')}/series", params=told)
        answer.raise_for_status()
        return answer.json()
