"""Connections that have not yet sent a whole request: bounded in number and in time.

A connection is *pending* while it is idle, or while its head or body is still on its way. Each address may have a number of
pending connections; a newer one closes the oldest. Complete requests are never pending, so a client that sends whole requests
is not affected by one that does not.
"""

from __future__ import annotations

import asyncio
from collections import OrderedDict
from collections.abc import Iterable
from typing import Any

from uvicorn.protocols.http.h11_impl import H11Protocol

# The head of a request must be complete this long after its first byte (or after the connection), s.
HEAD_S = 10.0
# A reader who takes nothing for this long is disconnected, s.
READ_S = 60.0
PENDING_EACH, PENDING_IN_ALL = 64, 512


class PendingConnections:
    """The pending connections of this process, the oldest first."""

    def __init__(self, each: int = PENDING_EACH, in_all: int = PENDING_IN_ALL, exempt: Iterable[str] = ()) -> None:
        self.each, self.in_all, self.exempt = each, in_all, frozenset(exempt)
        self._rows: OrderedDict[asyncio.BaseProtocol, str] = OrderedDict()
        self._counts: dict[str, int] = {}

    def __len__(self) -> int:
        return len(self._rows)

    def of(self, address: str) -> int:
        """How many of this address."""
        return self._counts.get(address, 0)

    def add(self, connection: BoundedProtocol, address: str) -> BoundedProtocol | None:
        """Count a connection as pending; returns the one to close for it, if there is one too many."""
        if connection in self._rows:
            return None
        oldest: Any = None
        if address not in self.exempt and self.of(address) >= self.each:
            oldest = next(row for row, its in self._rows.items() if its == address)
        elif len(self._rows) >= self.in_all:
            oldest = next(iter(self._rows))
        if oldest is not None:
            self.remove(oldest)
        self._rows[connection] = address
        self._counts[address] = self.of(address) + 1
        return oldest  # type: ignore[no-any-return]

    def remove(self, connection: BoundedProtocol) -> None:
        address = self._rows.pop(connection, None)
        if address is not None:
            left = self.of(address) - 1
            if left:
                self._counts[address] = left
            else:
                del self._counts[address]


class BoundedProtocol(H11Protocol):
    """uvicorn's HTTP protocol with a deadline for heads, a deadline for readers, and a bound on pending connections."""

    pending = PendingConnections()

    _head_timer: asyncio.TimerHandle | None = None
    _read_timer: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self._expect_head()
        self._update()

    def data_received(self, data: bytes) -> None:
        if self._between_requests():
            self._expect_head()
        super().data_received(data)
        self._update()

    def on_response_complete(self) -> None:
        super().on_response_complete()
        self._update()

    def connection_lost(self, exc: Exception | None) -> None:
        self._stop_timers()
        self.pending.remove(self)
        super().connection_lost(exc)

    def pause_writing(self) -> None:
        super().pause_writing()
        if self._read_timer is None:
            self._read_timer = self.loop.call_later(READ_S, self.transport.abort)

    def resume_writing(self) -> None:
        super().resume_writing()
        if self._read_timer is not None:
            self._read_timer.cancel()
            self._read_timer = None

    def _between_requests(self) -> bool:
        """Whether no head is complete, or its answer is already given."""
        return self.cycle is None or self.cycle.response_complete

    def _expect_head(self) -> None:
        if self._head_timer is None:
            self._head_timer = self.loop.call_later(HEAD_S, self.transport.abort)

    def _update(self) -> None:
        """Count this connection as pending or not, by what has arrived of its request."""
        if self.transport.is_closing():
            self._stop_head_timer()
            self.pending.remove(self)
            return
        if not self._between_requests():
            self._stop_head_timer()
            if not self.cycle.more_body:
                self.pending.remove(self)
                return
        address = self.client[0] if self.client else ""
        oldest = self.pending.add(self, address)
        if oldest is not None:
            oldest.transport.abort()

    def _stop_head_timer(self) -> None:
        if self._head_timer is not None:
            self._head_timer.cancel()
            self._head_timer = None

    def _stop_timers(self) -> None:
        self._stop_head_timer()
        if self._read_timer is not None:
            self._read_timer.cancel()
            self._read_timer = None
