"""What the engine says, worked out once.

The one door from the server to the engine's long work. A question that was answered before is
answered from what was worked out; one being worked out is waited for; others take a turn in a fair
line, and hold no database connection while they do.
"""

from __future__ import annotations

import hashlib
import threading
import time
from collections import OrderedDict
from collections.abc import Callable, Sequence
from concurrent.futures import Future
from functools import cache
from typing import TypeVar

from django.conf import settings
from django.db import connections
from django.http import HttpRequest
from mattone_engine.commands import run
from mattone_engine.fingerprint import fingerprint
from pydantic import BaseModel

from accounts.ownership import cook_id
from work.fair import BusyError, FairLine, GoneError
from work.models import keep, kept
from work.process import EngineDiedError, EnginePool

Result = TypeVar("Result", bound=BaseModel)

# How long one answer to the page goes on to the next of several questions.
ONE_ANSWER_S = 2.5


# What is asked from beside a hot oven has a line and a process of its own: it never waits for a plan, and what
# that process remembers of a bake is there at the next look.
AT_HAND = frozenset({"live"})


@cache
def line() -> FairLine:
    """This process's line; the bounds are shared out among the server's processes."""
    return FairLine(max(1, settings.ENGINE_SLOTS), settings.ENGINE_MOST_WAITING, settings.ENGINE_MOST_WAITING_EACH)


@cache
def line_at_hand() -> FairLine:
    return FairLine(1, settings.ENGINE_MOST_WAITING, settings.ENGINE_MOST_WAITING_EACH)


@cache
def pool() -> EnginePool:
    return EnginePool(settings.ENGINE_SLOTS)


@cache
def pool_at_hand() -> EnginePool:
    return EnginePool(1, at_hand=True)


def ready_at_hand() -> None:
    """A bake is under way: its engine loads its kernels before the first look."""
    if settings.ENGINE_PROCESSES:
        pool_at_hand().begin()


class Recent:
    """The newest answers, up to so many characters in all."""

    def __init__(self, most_chars: int) -> None:
        self.most_chars, self.chars = most_chars, 0
        self._rows: OrderedDict[str, str] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: str) -> str | None:
        with self._lock:
            if key not in self._rows:
                return None
            self._rows.move_to_end(key)
            return self._rows[key]

    def put(self, key: str, body: str) -> None:
        with self._lock:
            self.chars += len(body) - len(self._rows.pop(key, ""))
            self._rows[key] = body
            while self.chars > self.most_chars and self._rows:
                self.chars -= len(self._rows.popitem(last=False)[1])


recent = Recent(8_000_000)
_under_way: dict[str, Future[str]] = {}
_lock = threading.Lock()


def question_key(name: str, question: str) -> str:
    """What an answer is found by: the command, the engine itself, the question."""
    return hashlib.sha256(f"{name} {fingerprint()} {question}".encode()).hexdigest()


def answer_text(request: HttpRequest, name: str, ask: BaseModel, *, keep_it: bool = True) -> str:
    """The engine's JSON answer to `ask` by its command `name`. With keep_it it is found by every process, later too.

    Raises InputError, BusyError, GoneError.
    """
    text = ask.model_dump_json()
    key = question_key(name, text)
    found = recent.get(key) or (kept(key) if keep_it else None)
    if found is None:
        found = _single(key, lambda: _turn(request, name, text), lambda: client_gone(request))
        if keep_it:
            keep(key, found)
    recent.put(key, found)
    return found


def answer_to(request: HttpRequest, name: str, ask: BaseModel, shape: type[Result], *, keep_it: bool = True) -> Result:
    """The same, read into its shape."""
    return shape.model_validate_json(answer_text(request, name, ask, keep_it=keep_it))


def known_answer(name: str, ask: BaseModel) -> str | None:
    """The answer where it has been worked out already."""
    key = question_key(name, ask.model_dump_json())
    return recent.get(key) or kept(key)


def answers_in_slices(request: HttpRequest, name: str, asks: Sequence[BaseModel]) -> list[str]:
    """The answers to the first of `asks`, as many as one request may take time for.

    Known ones cost nothing; one is always worked out, so that asking again comes to an end.
    """
    began, worked_out, found = time.monotonic(), 0, list[str]()
    for ask in asks:
        text = known_answer(name, ask)
        if text is None:
            if worked_out and time.monotonic() - began > ONE_ANSWER_S:
                break
            text = answer_text(request, name, ask)
            worked_out += 1
        found.append(text)
    return found


def _single(key: str, work_out: Callable[[], str], gone: Callable[[], bool]) -> str:
    """One of several who ask the same at once works it out, the others wait for it."""
    while True:
        with _lock:
            leader = _under_way.get(key)
            if leader is None:
                mine: Future[str] = Future()
                _under_way[key] = mine
        if leader is None:
            try:
                mine.set_result(work_out())
            except BaseException as error:
                mine.set_exception(error)
            finally:
                with _lock:
                    del _under_way[key]
            return mine.result()
        free_connections()
        try:
            return leader.result(timeout=settings.ENGINE_LONGEST_S + settings.ENGINE_PATIENCE_S)
        except GoneError:
            # The one who asked first left; whoever still waits asks again.
            if gone():
                raise
        except TimeoutError as error:
            raise BusyError(5, mine=False) from error


def _turn(request: HttpRequest, name: str, text: str) -> str:
    def gone() -> bool:
        return client_gone(request)

    free_connections()
    waiting, engines = (line_at_hand(), pool_at_hand()) if name in AT_HAND else (line(), pool())
    with waiting.turn(cook_id(request), gone=gone, patience_s=settings.ENGINE_PATIENCE_S):
        if settings.ENGINE_PROCESSES:
            try:
                return engines.answer(name, text, gone=gone, longest_s=settings.ENGINE_LONGEST_S)
            except EngineDiedError as error:
                raise BusyError(2, mine=False) from error
        return run(name, text)


def free_connections() -> None:
    """Give the database connection back while something else takes its time; it is taken again when needed."""
    for connection in connections.all(initialized_only=True):
        if not connection.in_atomic_block:
            connection.close()


def client_gone(request: HttpRequest) -> bool:
    """Whether the browser has hung up; see config.asgi."""
    scope = getattr(request, "scope", None)
    left = scope.get("mattone.gone") if scope else None
    return left is not None and left.is_set()
