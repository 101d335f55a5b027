"""Connections that cannot be held open by saying nothing."""

from __future__ import annotations

import asyncio

import h11
from uvicorn.protocols.http.h11_impl import H11Protocol

HEAD_SECONDS = 10.0
"""Seconds in which the head of a request has to come whole."""


class PatientOnlySoLong(H11Protocol):
    """HTTP/1.1 as uvicorn speaks it, with a time limit on each head: a connection without one is closed."""

    _head: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self._wait_for_head()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.conn.their_state is h11.IDLE and self.conn.trailing_data[0]:
            self._wait_for_head()
        elif self.conn.their_state is not h11.IDLE:
            self._unset_head()

    def connection_lost(self, exc: Exception | None) -> None:
        self._unset_head()
        super().connection_lost(exc)

    def _wait_for_head(self) -> None:
        if self._head is None:
            self._head = self.loop.call_later(HEAD_SECONDS, self.transport.abort)

    def _unset_head(self) -> None:
        if self._head is not None:
            self._head.cancel()
            self._head = None
