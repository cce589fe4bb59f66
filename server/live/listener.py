"""One LISTEN a process: who waits for readings is woken when they come, by whichever process took them.

A word is told with the transaction it belongs to and heard after its commit. The listener holds one
connection of its own while anybody waits, and none when nobody does.
"""

from __future__ import annotations

import asyncio
import logging
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import psycopg
from django.db import connection

CHANNEL = "mattone"
LOOK_EVERY_S = 0.5
RECONNECT_S = 1.0
log = logging.getLogger("mattone.live")


def tell(word: str) -> None:
    """Wake whoever waits for this word, once the transaction around is committed."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, word])


class Waiter:
    """One that waits in an event loop; heard gathers the words since it last looked."""

    def __init__(self) -> None:
        self.loop = asyncio.get_running_loop()
        self.woken = asyncio.Event()
        self.heard: set[str] = set()

    def hear(self, word: str | None) -> None:
        """A word, or None: something may have been missed, look."""
        if word is not None:
            self.heard.add(word)
        self.woken.set()


class Listener:
    """The process's one listener, running while there are waiters."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._waiting: dict[str, set[Waiter]] = {}
        self._thread: threading.Thread | None = None
        self.connections = 0

    @property
    def open(self) -> int:
        with self._lock:
            return len({one for waiters in self._waiting.values() for one in waiters})

    @contextmanager
    def waiter(self, words: list[str]) -> Iterator[Waiter]:
        """A waiter for these words, until the block ends."""
        me = Waiter()
        with self._lock:
            for word in words:
                self._waiting.setdefault(word, set()).add(me)
            if self._thread is None or not self._thread.is_alive():
                self._thread = threading.Thread(target=self._listen, name="listener", daemon=True)
                self._thread.start()
        try:
            yield me
        finally:
            with self._lock:
                for word in words:
                    self._waiting[word].discard(me)
                    if not self._waiting[word]:
                        del self._waiting[word]

    def _wanted(self) -> bool:
        with self._lock:
            if not self._waiting:
                self._thread = None
            return bool(self._waiting)

    def _listen(self) -> None:
        stop = threading.Event()
        while self._wanted():
            try:
                with psycopg.connect(**_reached(), autocommit=True) as line:
                    self.connections += 1
                    line.execute(f"LISTEN {CHANNEL}")
                    # What was told while nobody listened: everybody looks.
                    self._wake(None)
                    while self._wanted():
                        for note in line.notifies(timeout=LOOK_EVERY_S, stop_after=50):
                            self._wake(note.payload)
                return
            except psycopg.Error as error:
                log.warning("the listener lost the database: %s", str(error).splitlines()[0] if str(error) else "gone")
                stop.wait(RECONNECT_S)

    def _wake(self, word: str | None) -> None:
        with self._lock:
            waiters = list(self._waiting.get(word, ())) if word is not None else list({one for ones in self._waiting.values() for one in ones})
        for waiter in waiters:
            try:
                waiter.loop.call_soon_threadsafe(waiter.hear, word)
            except RuntimeError:
                continue


def _reached() -> dict[str, Any]:
    """How Django reaches the database, without its pool."""
    told = connection.settings_dict
    options = {key: value for key, value in told["OPTIONS"].items() if key in ("connect_timeout", "sslmode", "sslrootcert", "sslcert", "sslkey")}
    return {"host": told["HOST"], "port": told["PORT"], "dbname": told["NAME"], "user": told["USER"], "password": told["PASSWORD"], **options}


listener = Listener()
