"""Engine processes: what is long is worked out beside the server, not in it."""

from __future__ import annotations

import logging
import os
import select
import subprocess
import sys
import threading
import time
from collections.abc import Callable

from django.conf import settings
from mattone_engine.errors import InputError
from mattone_engine.serve import AT_HAND

from work.fair import BusyError, GoneError

log = logging.getLogger("mattone.work")
LOOK_EVERY_S = 0.05
# How long an abandoned job may take to notice before its process is ended.
NOTICE_S = 3.0


class EngineFaultError(Exception):
    """The engine failed on input it should have refused."""


class EngineDiedError(Exception):
    """The process ended before it answered."""


class EngineProcess:
    """One process of the engine; begun when first asked, begun again when it died."""

    def __init__(self, *, at_hand: bool = False) -> None:
        self._arguments = [AT_HAND] if at_hand else []
        self._process: subprocess.Popen[bytes] | None = None
        self._rest = b""

    def _running(self) -> subprocess.Popen[bytes]:
        if self._process is None or self._process.poll() is not None:
            self._rest = b""
            self._process = subprocess.Popen(
                [sys.executable, "-m", "mattone_engine.serve", *self._arguments],
                stdin=subprocess.PIPE,
                stdout=subprocess.PIPE,
                env=os.environ | {"PYTHONPATH": settings.ENGINE_PATH},
            )
        return self._process

    def begin(self) -> None:
        """Begin it, so that the first cook does not wait for the kernels."""
        self._running()

    def answer(self, name: str, text: str, *, gone: Callable[[], bool], longest_s: float) -> str:
        """The JSON answer. Raises InputError, GoneError, BusyError when it takes too long, EngineDiedError, EngineFaultError."""
        process = self._running()
        assert process.stdin is not None
        data = text.encode()
        try:
            process.stdin.write(f"{name} {len(data)}\n".encode() + data)
            process.stdin.flush()
            return self._told(process, gone, time.monotonic() + longest_s)
        except (BrokenPipeError, EngineDiedError) as error:
            self.end()
            raise EngineDiedError from error

    def _told(self, process: subprocess.Popen[bytes], gone: Callable[[], bool], end: float) -> str:
        why: Exception | None = None
        head: tuple[str, int] | None = None
        while True:
            if head is None and b"\n" in self._rest:
                line, self._rest = self._rest.split(b"\n", 1)
                word, _, length = line.decode().partition(" ")
                head = (word, int(length))
            if head is not None and len(self._rest) >= head[1]:
                body, self._rest = self._rest[: head[1]].decode(), self._rest[head[1] :]
                return _meant(head[0], body, why)
            self._more(process)
            if why is None and (gone() or time.monotonic() > end):
                why = GoneError() if gone() else BusyError(10, mine=False)
                assert process.stdin is not None
                process.stdin.write(b"abandon\n")
                process.stdin.flush()
                end = time.monotonic() + NOTICE_S
            elif why is not None and time.monotonic() > end:
                self.end()
                raise why

    def _more(self, process: subprocess.Popen[bytes]) -> None:
        assert process.stdout is not None
        if select.select([process.stdout], [], [], LOOK_EVERY_S)[0]:
            more = os.read(process.stdout.fileno(), 1 << 20)
            if not more:
                raise EngineDiedError
            self._rest += more

    def end(self) -> None:
        if self._process is not None:
            self._process.kill()
            self._process.wait(10)
            for pipe in (self._process.stdin, self._process.stdout):
                if pipe is not None:
                    pipe.close()
            self._process = None


def _meant(word: str, body: str, why: Exception | None) -> str:
    """The answer's body, or the error it tells."""
    if why is not None:
        raise why
    if word == "ok":
        return body
    if word == "input":
        path, _, message = body.partition("\n")
        raise InputError(path, message)
    raise EngineFaultError(body)


class EnginePool:
    """So many processes; each asked by one thread at a time."""

    def __init__(self, count: int, *, at_hand: bool = False) -> None:
        self._idle = [EngineProcess(at_hand=at_hand) for _ in range(count)]
        self._lock = threading.Lock()

    def begin(self) -> None:
        """Begin those that were not begun yet and are not at work."""
        with self._lock:
            for one in self._idle:
                one.begin()

    def answer(self, name: str, text: str, *, gone: Callable[[], bool], longest_s: float) -> str:
        with self._lock:
            one = self._idle.pop()
        try:
            try:
                return one.answer(name, text, gone=gone, longest_s=longest_s)
            except EngineDiedError:
                log.error("an engine process died over %s; begun again", name)
                return one.answer(name, text, gone=gone, longest_s=longest_s)
        finally:
            with self._lock:
                self._idle.append(one)

    def end(self) -> None:
        with self._lock:
            for one in self._idle:
                one.end()
