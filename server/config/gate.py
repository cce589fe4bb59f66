"""What stands before Django: bodies are bounded while they arrive, requests while they are answered; the access log; start and end.

A request counts as *in hand* from the moment its body is complete, so that one that never becomes complete holds up nobody.
Bodies are refused by their declared length, or by counting, before they are stored anywhere.
"""

from __future__ import annotations

import asyncio
import contextlib
import json
import logging
import re
import threading
import time
from collections import Counter
from collections.abc import AsyncIterator, Awaitable, Callable, Iterator, MutableMapping
from http.cookies import CookieError, SimpleCookie
from typing import Any
from urllib.parse import quote

from django.conf import settings
from versions import HEADER, spoken_version

from config.bodies import PAUSE_S, is_large, longest_s, most_bytes, too_long_message

Scope = MutableMapping[str, Any]
Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]
SignedIn = Callable[[str], Awaitable[bool]]

access = logging.getLogger("mattone.access")
STREAM = re.compile(r"^/api/live/instruments/\d+/stream$")
# A key that stands in an address is not logged.
SECRET_IN_PATH = re.compile(r"^/(password|verify)/[^/]+")
# After a refusal, so much of the rest of the body is read and thrown away, for so long, so that the client reads the refusal.
DISCARD_BYTES, DISCARD_S = 4 * 2**20, 2.0
# How long a request waits for others of its session, s.
WAIT_S = 10.0


class RefusedError(Exception):
    """A request that is not let in."""

    def __init__(self, status: int, message: str, retry_after_s: int | None = None) -> None:
        super().__init__(message)
        self.status, self.message, self.retry_after_s = status, message, retry_after_s


class Shares:
    """How many of something there are at once, in all and by key."""

    def __init__(self) -> None:
        self.in_all = 0
        self.by_key: Counter[str] = Counter()

    @contextlib.contextmanager
    def one_more(self, keys: list[str]) -> Iterator[None]:
        self.in_all += 1
        self.by_key.update(keys)
        try:
            yield
        finally:
            self.in_all -= 1
            for key in keys:
                self.by_key[key] -= 1
                if not self.by_key[key]:
                    del self.by_key[key]


async def _nothing() -> None:
    return None


async def _nobody(session_key: str) -> bool:
    return False


class Gate:
    """An ASGI application around Django's. signed_in: whether a session key is a signed-in cook's."""

    def __init__(self, app: App, *, begin: Callable[[], None], end: Callable[[], None], signed_in: SignedIn = _nobody) -> None:
        self.app, self.begin, self.end, self.signed_in = app, begin, end, signed_in
        self.in_hand, self.large, self.turns = Shares(), Shares(), Turns()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "lifespan":
            await self._live(receive, send)
        elif scope["type"] == "http":
            await self._serve(scope, receive, send)

    async def _live(self, receive: Receive, send: Send) -> None:
        while True:
            message = await receive()
            if message["type"] == "lifespan.startup":
                await asyncio.to_thread(self.begin)
                await send({"type": "lifespan.startup.complete"})
            elif message["type"] == "lifespan.shutdown":
                await asyncio.to_thread(self.end)
                await send({"type": "lifespan.shutdown.complete"})
                return

    async def _serve(self, scope: Scope, receive: Receive, send: Send) -> None:
        began, status, answered = time.monotonic(), 0, False
        client_disconnected = threading.Event()
        # An endless answer is in hand until it begins; from then on its own view bounds it (live.stream).
        endless = bool(STREAM.match(scope["path"]))

        async def sent(message: Message) -> None:
            nonlocal status, answered
            if message["type"] == "http.response.start":
                status, answered = message["status"], True
                if endless:
                    await held.aclose()
                message = {**message, "headers": [*message.get("headers", ()), (HEADER.lower().encode(), spoken_version().encode())]}
            await send(message)

        async with contextlib.AsyncExitStack() as held:
            body = Body(scope, receive, client_disconnected)
            try:
                await self._admit(scope, body, held)
                body.when_complete = lambda: self._count(scope, held)
                await self.app({**scope, "mattone.gone": client_disconnected}, body.receive, sent)
            except RefusedError as refused:
                if not answered:
                    await _refuse(refused, body, sent)
        client = (scope.get("client") or ("-", 0))[0]
        access.info("%s %s %s %s %.0f ms", client, scope["method"], logged_path(scope["path"]), status or "left", 1000 * (time.monotonic() - began))

    async def _admit(self, scope: Scope, body: Body, held: contextlib.AsyncExitStack) -> None:
        """Refuse by what the head says, before a byte of the body is read."""
        body.refuse_declared_length()
        if not is_large(body.most if body.length is None and body.chunked else body.length):
            return
        session = session_key(scope)
        if not session or not await self.signed_in(session):
            raise RefusedError(401, "Sign in first.")
        if self.large.in_all >= settings.MOST_LARGE or self.large.by_key[session] >= settings.MOST_LARGE_OF_SESSION:
            raise RefusedError(429, "Several files are arriving already; send this one when they are done.", 5)
        held.enter_context(self.large.one_more([session]))

    async def _count(self, scope: Scope, held: contextlib.AsyncExitStack) -> None:
        """Count a complete request as in hand; raises RefusedError where there are too many."""
        address = f"address {(scope.get('client') or ('-', 0))[0]}"
        if self.in_hand.by_key[address] >= settings.MOST_IN_HAND_OF_ADDRESS:
            raise RefusedError(429, "Too much at once; try again in a moment.", 1)
        if self.in_hand.in_all >= settings.MOST_IN_HAND:
            raise RefusedError(503, "Mattone is busy; try again in a moment.", 2)
        held.enter_context(self.in_hand.one_more([address]))
        if session := session_key(scope):
            await held.enter_async_context(self.turns.turn(session))


class Turns:
    """A few requests of one session at a time. More wait their turn here, where waiting costs no thread; too many are refused."""

    def __init__(self) -> None:
        self._rows: dict[str, tuple[asyncio.Semaphore, list[None]]] = {}

    @contextlib.asynccontextmanager
    async def turn(self, session: str) -> AsyncIterator[None]:
        """Raises RefusedError when the session has too many, or its turn does not come."""
        at_once, waiting = settings.MOST_AT_ONCE_OF_SESSION, settings.MOST_WAITING_OF_SESSION
        semaphore, members = self._rows.setdefault(session, (asyncio.Semaphore(at_once), []))
        if len(members) >= at_once + waiting:
            raise RefusedError(429, "Too much at once; try again in a moment.", 1)
        members.append(None)
        try:
            try:
                await asyncio.wait_for(semaphore.acquire(), WAIT_S)
            except TimeoutError as error:
                raise RefusedError(429, "Too much at once; try again in a moment.", 2) from error
            try:
                yield
            finally:
                semaphore.release()
        finally:
            members.pop()
            if not members:
                del self._rows[session]


class Body:
    """The body of one request while it arrives: its length is bounded, and so is its time."""

    def __init__(self, scope: Scope, receive: Receive, client_disconnected: threading.Event) -> None:
        self._receive, self._disconnected = receive, client_disconnected
        headers = {name.lower(): value for name, value in scope.get("headers", ())}
        declared = headers.get(b"content-length", b"").decode("latin-1").strip()
        self.chunked = b"transfer-encoding" in headers
        self.declared = declared
        self.length = int(declared) if declared.isascii() and declared.isdigit() and len(declared) < 16 else None
        self.most = most_bytes(scope["path"])
        self.arrived, self.complete = 0, False
        self.when_complete: Callable[[], Awaitable[None]] = _nothing
        self._end = time.monotonic() + longest_s(self.length or (self.most if self.chunked else 0))

    def refuse_declared_length(self) -> None:
        """Raises RefusedError."""
        if self.declared and self.length is None:
            raise RefusedError(400, "The length of the request is not a number; send it again.")
        if self.length is not None and self.length > self.most:
            raise RefusedError(413, too_long_message(self.most))

    async def receive(self) -> Message:
        """The next piece, as ASGI has it; raises RefusedError where the body is too long or too slow."""
        if self.complete:
            message = await self._receive()
        else:
            left = self._end - time.monotonic()
            try:
                message = await asyncio.wait_for(self._receive(), max(0.01, min(left, PAUSE_S)))
            except TimeoutError as error:
                raise RefusedError(408, "The request did not arrive in time; send it again.") from error
        if message["type"] == "http.disconnect":
            self._disconnected.set()
        elif not self.complete:
            self.arrived += len(message.get("body", b""))
            if self.arrived > self.most:
                raise RefusedError(413, too_long_message(self.most))
            if not message.get("more_body", False):
                self.complete = True
                await self.when_complete()
        return message

    async def rest(self) -> AsyncIterator[int]:
        """Sizes of further pieces, which are thrown away."""
        while not self.complete:
            message = await self._receive()
            self.complete = message["type"] == "http.disconnect" or not message.get("more_body", False)
            yield len(message.get("body", b""))


async def _refuse(refused: RefusedError, body: Body, send: Send) -> None:
    text = json.dumps({"error": {"path": "", "message": refused.message}}).encode()
    headers = [(b"content-type", b"application/json"), (b"content-length", str(len(text)).encode()), (b"cache-control", b"no-store")]
    if refused.retry_after_s is not None:
        headers.append((b"retry-after", str(refused.retry_after_s).encode()))
    if not body.complete:
        headers.append((b"connection", b"close"))
    await send({"type": "http.response.start", "status": refused.status, "headers": headers})
    await send({"type": "http.response.body", "body": text, "more_body": True})
    if refused.status != 408:
        await _discard(body)
    await send({"type": "http.response.body", "body": b""})


async def _discard(body: Body) -> None:
    """A client that is still sending does not read before it is done: let it send a little more."""
    thrown = 0
    with contextlib.suppress(TimeoutError):
        async with asyncio.timeout(DISCARD_S):
            async for size in body.rest():
                thrown += size
                if thrown > DISCARD_BYTES:
                    return


def session_key(scope: Scope) -> str:
    """The session cookie of a request; empty where there is none."""
    for name, value in scope.get("headers", ()):
        if name.lower() == b"cookie":
            with contextlib.suppress(CookieError):
                cookie = SimpleCookie(value.decode("latin-1")).get(settings.SESSION_COOKIE_NAME)
                if cookie is not None:
                    return cookie.value[:64]
    return ""


def logged_path(path: str) -> str:
    """An address as the access log has it: one line, no query, no key that lets anybody in."""
    return quote(SECRET_IN_PATH.sub(r"/\1/...", path), safe="/:@!$&'()*+,;=~.-_")[:200]
