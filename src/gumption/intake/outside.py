"""Connections to the outside alone: what is fetched from there never leads into the network that this machine stands in.

Names may mean one host now and another a moment later, and a host may send on to another; so what counts is the address
of each connection itself, looked at when it is made.
"""

from __future__ import annotations

import ipaddress
import socket
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager

_INTO_IPV4 = (
    ipaddress.ip_network("64:ff9b::/96"),
    ipaddress.ip_network("64:ff9b:1::/48"),
    ipaddress.ip_network("2002::/16"),
)
"""IPv6 addresses that lead to an IPv4 one, which may be any (RFC 6052, RFC 8215, RFC 3056)."""
_state = threading.local()


class LeadsInside(Exception):
    """A connection would have led to an address inside the network, or to a socket of this machine."""


def is_inside(address: str) -> bool:
    """True for an IP address that the outside world does not reach, or that may lead to one; a zone behind it does not count."""
    at = ipaddress.ip_address(address.split("%")[0])
    if isinstance(at, ipaddress.IPv6Address):
        if at.ipv4_mapped is not None:
            at = at.ipv4_mapped
        elif any(at in network for network in _INTO_IPV4):
            return True
    return not at.is_global or at.is_multicast


def addresses_of(host: str, port: int) -> list[str]:
    """Where a host is. Raises OSError where there is none, and LeadsInside where one of them is inside."""
    found = [str(info[4][0]) for info in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)]
    if any(map(is_inside, found)):
        raise LeadsInside
    return found


@contextmanager
def only_outside() -> Iterator[None]:
    """While the block runs, a connection of this thread to the inside raises LeadsInside instead."""
    _listen_once()
    _state.outside = True
    try:
        yield
    finally:
        _state.outside = False


def _look(event: str, arguments: tuple[object, ...]) -> None:
    if event != "socket.connect" or not getattr(_state, "outside", False):
        return
    address = arguments[1]
    if not isinstance(address, tuple):
        raise LeadsInside
    try:
        inside = is_inside(str(address[0]))
    except ValueError as error:
        # What is not yet an address would be looked up only now, and not be seen.
        raise LeadsInside from error
    if inside:
        raise LeadsInside


_listening = threading.Lock()
_installed = False


def _listen_once() -> None:
    # A hook cannot be taken away again, so that there is one, which does nothing but while it is asked to.
    global _installed
    with _listening:
        if not _installed:
            sys.addaudithook(_look)
            _installed = True
