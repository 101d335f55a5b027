"""Watches that were met, as an Atom feed (RFC 4287)."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from xml.etree.ElementTree import Element, SubElement, register_namespace, tostring

from gumption.store.folio import Sighting

_ATOM = "http://www.w3.org/2005/Atom"
_MOST = 50


def atom(sightings: Sequence[Sighting], title: str, address: str, workspace: int) -> str:
    """The feed: an entry each time that a watch came to be met, the latest first."""
    register_namespace("", _ATOM)
    feed = Element(f"{{{_ATOM}}}feed")
    _add(feed, "title", f"{title}: watches that are met")
    _add(feed, "id", address)
    SubElement(feed, f"{{{_ATOM}}}link", {"rel": "self", "href": address})
    _add(SubElement(feed, f"{{{_ATOM}}}author"), "name", "Gumption")
    met = _came_to_be_met(sightings)[:_MOST]
    _add(feed, "updated", _at(met[0].at if met else dt.datetime(1970, 1, 1)))
    root = address.partition("/api/")[0]
    for one in met:
        entry = SubElement(feed, f"{{{_ATOM}}}entry")
        _add(entry, "title", f"{one.seen.condition}: {one.seen.words}")
        _add(entry, "id", f"{address}#{one.id}")
        _add(entry, "updated", _at(one.at))
        SubElement(entry, f"{{{_ATOM}}}link", {"href": f"{root}/w/{workspace}/folio/{one.page}"})
        _add(entry, "summary", f"On the page “{one.title}”.")
    return '<?xml version="1.0" encoding="utf-8"?>\n' + tostring(feed, encoding="unicode") + "\n"


def _came_to_be_met(sightings: Sequence[Sighting]) -> list[Sighting]:
    """Those that were met and, the time before, were not, or told another thing."""
    earlier: dict[int, str] = {}
    found = []
    for one in reversed(sightings):
        told = one.seen.words if one.seen.met else ""
        if told and earlier.get(one.part) != told:
            found.append(one)
        earlier[one.part] = told
    return found[::-1]


def _at(when: dt.datetime) -> str:
    return when.astimezone().isoformat(timespec="seconds")


def _add(to: Element, name: str, text: str) -> None:
    SubElement(to, f"{{{_ATOM}}}{name}").text = text
