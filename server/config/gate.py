"""What stands before Django: how many requests are in hand, who has hung up, what is logged, and the process's beginning and end."""

from __future__ import annotations

import asyncio
import json
import logging
import threading
import time
from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

from django.conf import settings

Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]

access = logging.getLogger("mattone.access")
BUSY = json.dumps({"error": {"path": "", "message": "Too many at once; try again in a moment."}}).encode()


class Gate:
    """An ASGI application round Django's."""

    def __init__(self, app: App, *, begin: Callable[[], None], end: Callable[[], None]) -> None:
        self.app, self.begin, self.end = app, begin, end
        self.in_hand = 0

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
        began, status = time.monotonic(), 0
        gone = threading.Event()
        counted = not scope["path"].endswith("/stream")

        async def received() -> MutableMapping[str, Any]:
            message = await receive()
            if message["type"] == "http.disconnect":
                gone.set()
            return message

        async def sent(message: MutableMapping[str, Any]) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
            await send(message)

        if counted and self.in_hand >= settings.MOST_IN_HAND:
            headers = [(b"content-type", b"application/json"), (b"retry-after", b"2"), (b"content-length", str(len(BUSY)).encode())]
            await sent({"type": "http.response.start", "status": 503, "headers": headers})
            await sent({"type": "http.response.body", "body": BUSY})
        else:
            self.in_hand += counted
            try:
                await self.app({**scope, "mattone.gone": gone}, received, sent)
            finally:
                self.in_hand -= counted
        # The address without its query: what is asked for is nobody's business later.
        client = (scope.get("client") or ("-", 0))[0]
        access.info("%s %s %s %s %.0f ms", client, scope["method"], scope["path"], status or "left", 1000 * (time.monotonic() - began))
