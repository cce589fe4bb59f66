"""The gate and its connections, over real sockets: half-sent, oversized, slow and too many requests."""

from __future__ import annotations

import asyncio
import contextlib
import json
import socket
import threading
import time
from collections.abc import Iterator
from typing import Any
from unittest.mock import patch

import uvicorn
from django.test import SimpleTestCase, override_settings
from hypothesis import given
from hypothesis import strategies as st

from config import bodies, connection, gate
from config.connection import BoundedProtocol, PendingConnections
from config.gate import Gate, logged_path

COOKIE = "Cookie: sessionid=known\r\n"


class Behind:
    """An application that reads the whole body, as Django does, and counts what reaches it."""

    def __init__(self) -> None:
        self.calls, self.arrived = 0, 0
        self.hold = threading.Event()
        self.hold.set()

    async def __call__(self, scope: Any, receive: Any, send: Any) -> None:
        more = True
        while more:
            message = await receive()
            if message["type"] == "http.disconnect":
                return
            self.arrived += len(message.get("body", b""))
            more = message.get("more_body", False)
        self.calls += 1
        await asyncio.to_thread(self.hold.wait, 10)
        body = b"x" * int(scope["path"].rpartition("/")[2] or 2) if scope["path"].startswith("/long/") else b"ok"
        await send({"type": "http.response.start", "status": 200, "headers": [(b"content-length", str(len(body)).encode())]})
        await send({"type": "http.response.body", "body": body})


class Serving(SimpleTestCase):
    """A gate before `Behind`, served by uvicorn as Mattone is."""

    @contextlib.contextmanager
    def serving(self, pending: PendingConnections | None = None) -> Iterator[Behind]:
        async def signed_in(key: str) -> bool:
            return key == "known"

        behind = Behind()
        self.gate = Gate(behind, begin=lambda: None, end=lambda: None, signed_in=signed_in)
        listener = socket.create_server(("127.0.0.1", 0))
        self.port = listener.getsockname()[1]
        server = uvicorn.Server(uvicorn.Config(self.gate, http=BoundedProtocol, ws="none", log_level="error", lifespan="off", timeout_graceful_shutdown=1))
        self.opened: list[socket.socket] = []
        with patch.object(BoundedProtocol, "pending", PendingConnections() if pending is None else pending):
            thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
            thread.start()
            try:
                yield behind
            finally:
                behind.hold.set()
                for one in self.opened:
                    one.close()
                server.should_exit = True
                thread.join(10)

    def opened_with(self, text: str | bytes, source: str = "127.0.0.1") -> socket.socket:
        one = socket.create_connection(("127.0.0.1", self.port), timeout=10, source_address=(source, 0))
        self.opened.append(one)
        one.sendall(text.encode() if isinstance(text, str) else text)
        return one

    def answer(self, one: socket.socket) -> tuple[int, dict[str, Any]]:
        """Status and body of what comes back; 0 where the connection is closed without an answer."""
        data = b""
        with contextlib.suppress(ConnectionError):
            while piece := one.recv(65536):
                data += piece
                head, found, body = data.partition(b"\r\n\r\n")
                length = next((int(line[15:]) for line in head.lower().split(b"\r\n") if line.startswith(b"content-length:")), 0)
                if found and len(body) >= length:
                    break
        if not data:
            return 0, {}
        head, _, body = data.partition(b"\r\n\r\n")
        self.assertIn(b"x-mattone: ", head.lower())
        return int(head.split()[1]), json.loads(body) if body.startswith(b"{") else {}

    def ask(self, head: str = "GET / HTTP/1.1\r\nHost: x\r\n", body: bytes = b"", source: str = "127.0.0.1") -> tuple[int, dict[str, Any]]:
        return self.answer(self.opened_with(head.encode() + b"\r\n" + body, source))

    def posted(self, path: str = "/api/events", *, length: object, body: bytes = b"", more: str = "") -> tuple[int, dict[str, Any]]:
        return self.ask(f"POST {path} HTTP/1.1\r\nHost: x\r\nContent-Length: {length}\r\n{more}", body)


class HalfSent(Serving):
    def test_requests_that_never_become_complete_hold_up_nobody(self) -> None:
        with override_settings(MOST_IN_HAND=4, MOST_IN_HAND_OF_ADDRESS=4), self.serving() as behind:
            for i in range(60):
                self.opened_with("POST /api/events HTTP/1.1\r\nHost: x\r\nContent-Length: 1000\r\n\r\n{" if i % 2 else "GET /api/kitchen HTT")
            for path in ("/", "/api/live/instruments/1/stream"):
                self.assertEqual(self.ask(f"GET {path} HTTP/1.1\r\nHost: x\r\n")[0], 200)
            self.assertEqual(behind.calls, 2, "a half-sent request does not reach the application")

    def test_an_address_that_opens_too_many_loses_its_oldest_and_no_other_does(self) -> None:
        with self.serving(PendingConnections(each=5)):
            other = self.opened_with("GET / HTTP/1.1\r\n", "127.0.0.2")
            held = [self.opened_with("GET / HTTP/1.1\r\n") for _ in range(5)]
            time.sleep(0.2)
            newest = self.opened_with("GET / HTTP/1.1\r\n")
            self.assertEqual(self.answer(held[0])[0], 0, "the oldest is closed")
            for one in (newest, held[4], other):
                one.sendall(b"Host: x\r\n\r\n")
                self.assertEqual(self.answer(one)[0], 200)

    def test_a_head_has_a_deadline_that_dripping_does_not_move(self) -> None:
        with patch.object(connection, "HEAD_S", 0.5), self.serving():
            one, began = self.opened_with("GET / HTTP/1.1\r\n"), time.monotonic()
            with contextlib.suppress(ConnectionError):
                while time.monotonic() - began < 5:
                    one.sendall(b"A: b\r\n")
                    time.sleep(0.1)
            self.assertLess(time.monotonic() - began, 2)
            # The same on a connection that has had an answer before.
            again = self.opened_with("GET / HTTP/1.1\r\nHost: x\r\n\r\n")
            self.assertEqual(self.answer(again)[0], 200)
            again.sendall(b"GET / HT")
            self.assertEqual(self.answer(again)[0], 0)

    def test_a_body_that_pauses_or_drips_is_told_so(self) -> None:
        with patch.object(gate, "PAUSE_S", 0.3), self.serving() as behind:
            status, told = self.posted(length=100, body=b"{")
            self.assertEqual(status, 408)
            self.assertIn("did not arrive in time", told["error"]["message"])
            with patch.object(bodies, "BODY_S", 0.5):
                one, began = self.opened_with("POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 1000\r\n\r\n"), time.monotonic()
                with contextlib.suppress(ConnectionError):
                    while time.monotonic() - began < 5:
                        one.sendall(b"x")
                        time.sleep(0.1)
                self.assertLess(time.monotonic() - began, 2)
            self.assertEqual(behind.calls, 0)

    def test_who_does_not_read_is_disconnected(self) -> None:
        with patch.object(connection, "READ_S", 0.3), self.serving():
            one = self.opened_with("GET /long/30000000 HTTP/1.1\r\nHost: x\r\n\r\n")
            time.sleep(1.5)
            self.assertEqual(self.gate.in_hand.in_all, 0)
            got = 0
            with contextlib.suppress(ConnectionError):
                while piece := one.recv(1 << 20):
                    got += len(piece)
            self.assertLess(got, 30_000_000)


class Oversized(Serving):
    def test_a_length_is_refused_before_a_byte_of_it_is_read(self) -> None:
        with self.serving() as behind:
            for length in (300_000, 1_500_000_000, 10**14):
                status, told = self.posted(length=length, body=b"x" * 1000)
                self.assertEqual((status, told["error"]["message"]), (413, "The request is larger than 256 kB; send less."))
            self.assertEqual(
                self.posted("/api/exchange/import", length=9_000_000, more=COOKIE)[1]["error"]["message"], "The request is larger than 8 MB; send less."
            )
            self.assertEqual(self.posted(length="1" * 16)[0], 400)
            self.assertEqual((behind.calls, behind.arrived), (0, 0))

    def test_one_that_does_not_say_its_length_is_counted(self) -> None:
        piece = b"8000\r\n" + b"x" * 0x8000 + b"\r\n"
        with self.serving() as behind:
            one = self.opened_with("POST /api/events HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked\r\n\r\n")
            with contextlib.suppress(ConnectionError):
                for _ in range(40):
                    one.sendall(piece)
                one.sendall(b"0\r\n\r\n")
            self.assertEqual(self.answer(one)[0], 413)
            self.assertLessEqual(behind.arrived, 256 * 1024)
            self.assertEqual(behind.calls, 0)

    def test_files_are_taken_from_the_signed_in_alone_and_a_few_at_once(self) -> None:
        with self.serving() as behind:
            for more in ("", "Cookie: sessionid=guessed\r\n"):
                self.assertEqual(self.posted("/api/logbook/import-photos", length=500_000_000, more=more)[0], 401)
                chunked = f"POST /api/logbook/7/photos HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked\r\n{more}"
                self.assertEqual(self.ask(chunked, b"1\r\nx\r\n")[0], 401)
            self.assertEqual(self.posted("/api/logbook/7/photos", length=400_000, body=b"x" * 400_000, more=COOKIE)[0], 200)
            head = f"POST /api/logbook/import-photos HTTP/1.1\r\nHost: x\r\nContent-Length: 500000\r\n{COOKIE}\r\n"
            for _ in range(2):
                self.opened_with(head)
            time.sleep(0.2)
            self.assertEqual(self.posted("/api/logbook/7/photos", length=400_000, more=COOKIE)[0], 429)
            self.assertEqual(behind.calls, 1)


class TooMany(Serving):
    def held(self, behind: Behind, count: int, more: str = "", source: str = "127.0.0.1") -> None:
        """So many requests in hand that are not answered yet."""
        behind.hold.clear()
        before = behind.calls
        for _ in range(count):
            self.opened_with(f"GET / HTTP/1.1\r\nHost: x\r\n{more}\r\n", source)
        end = time.monotonic() + 5
        while behind.calls < before + count and time.monotonic() < end:
            time.sleep(0.01)

    def test_one_address_has_its_share(self) -> None:
        with override_settings(MOST_IN_HAND_OF_ADDRESS=3), self.serving() as behind:
            self.held(behind, 3)
            self.assertEqual(self.ask()[0], 429)
            other = self.opened_with("GET / HTTP/1.1\r\nHost: x\r\n\r\n", "127.0.0.2")
            behind.hold.set()
            self.assertEqual(self.answer(other)[0], 200)

    def test_a_session_has_a_few_at_once_and_its_housemates_have_theirs(self) -> None:
        with override_settings(MOST_AT_ONCE_OF_SESSION=2, MOST_WAITING_OF_SESSION=1), self.serving() as behind:
            self.held(behind, 2, COOKIE)
            waits = self.opened_with(f"GET / HTTP/1.1\r\nHost: x\r\n{COOKIE}\r\n")
            time.sleep(0.2)
            self.assertEqual((behind.calls, self.ask(f"GET / HTTP/1.1\r\nHost: x\r\n{COOKIE}")[0]), (2, 429))
            housemate = self.opened_with("GET / HTTP/1.1\r\nHost: x\r\nCookie: sessionid=another\r\n\r\n")
            behind.hold.set()
            self.assertEqual([self.answer(one)[0] for one in (housemate, waits)], [200, 200])
            with patch.object(gate, "WAIT_S", 0.2):
                self.held(behind, 2, COOKIE)
                self.assertEqual(self.ask(f"GET / HTTP/1.1\r\nHost: x\r\n{COOKIE}")[0], 429)

    def test_every_path_counts(self) -> None:
        with override_settings(MOST_IN_HAND=2), self.serving() as behind:
            self.held(behind, 2)
            for path in ("/api/anything/stream", "/api/live/instruments/1/stream"):
                status, told = self.ask(f"GET {path} HTTP/1.1\r\nHost: x\r\n")
                self.assertEqual((status, told["error"]["message"]), (503, "Mattone is busy; try again in a moment."))

    def test_a_stream_is_in_hand_until_it_begins(self) -> None:
        begun, go_on = threading.Event(), threading.Event()

        async def endless(scope: Any, receive: Any, send: Any) -> None:
            await receive()
            await send({"type": "http.response.start", "status": 200, "headers": []})
            await send({"type": "http.response.body", "body": b"a", "more_body": True})
            begun.set()
            await asyncio.to_thread(go_on.wait, 5)

        with override_settings(MOST_IN_HAND=1), self.serving() as behind:
            self.gate.app = endless
            self.opened_with("GET /api/live/instruments/1/stream HTTP/1.1\r\nHost: x\r\n\r\n")
            self.assertTrue(begun.wait(5))
            self.gate.app = behind
            self.assertEqual((self.gate.in_hand.in_all, self.ask()[0]), (0, 200))
            go_on.set()


class Pending(SimpleTestCase):
    @given(st.lists(st.tuples(st.booleans(), st.integers(0, 30), st.sampled_from(["a", "b", "c", "proxy"])), max_size=120))
    def test_counts_are_right_whatever_comes_and_goes(self, steps: list[tuple[bool, int, str]]) -> None:
        rows: dict[Any, str] = {}
        pending = PendingConnections(each=4, in_all=9, exempt=["proxy"])
        for comes, number, address in steps:
            key: Any = f"{address}{number}"
            if comes:
                closed = pending.add(key, address)
                if closed is not None:
                    self.assertNotEqual(closed, key)
                    del rows[closed]
                rows[key] = address
            else:
                pending.remove(key)
                rows.pop(key, None)
            self.assertEqual(len(pending), len(rows))
            self.assertLessEqual(len(pending), 9)
            for each in ("a", "b", "c", "proxy"):
                self.assertEqual(pending.of(each), list(rows.values()).count(each))
                self.assertLessEqual(pending.of(each), 9 if each == "proxy" else 4)


class Log(SimpleTestCase):
    def test_an_address_in_the_log_is_one_line_without_keys(self) -> None:
        for path, logged in (
            ("/api/plans", "/api/plans"), ("/password/3-abc-def", "/password/..."), ("/verify/MQ:1x", "/verify/..."),
            ("/a\nGET /b 200", "/a%0AGET%20/b%20200"), ("/\x1b[31m\u202e", "/%1B%5B31m%E2%80%AE"), ("/" + "x" * 500, "/" + "x" * 199),
        ):  # fmt: skip
            self.assertEqual(logged_path(path), logged)
