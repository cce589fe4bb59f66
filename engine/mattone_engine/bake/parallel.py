"""Bakes side by side: the kernels release the interpreter's lock, so threads are enough."""

from __future__ import annotations

import contextlib
import os
import threading
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

Given = TypeVar("Given")
Told = TypeVar("Told")


def _new_pool() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(max_workers=max(1, os.cpu_count() or 1), thread_name_prefix="bake")


_pool = _new_pool()
# Whether this thread is one of the pool's.
_here = threading.local()


def _after_fork() -> None:
    # A forked child inherits the pool but not its threads.
    global _pool
    _pool = _new_pool()


os.register_at_fork(after_in_child=_after_fork)


class AbandonedError(Exception):
    """Nobody waits for this answer any more."""


_abandoned: Callable[[], bool] = lambda: False  # noqa: E731


@contextlib.contextmanager
def abandoned_when(asked: Callable[[], bool]) -> Iterator[None]:
    """Within it work stops between two bakes, by AbandonedError, as soon as `asked` says so."""
    global _abandoned
    before, _abandoned = _abandoned, asked
    try:
        yield
    finally:
        _abandoned = before


def in_parallel(act: Callable[[Given], Told], given: Iterable[Given]) -> list[Told]:
    """`act` of each, in order; one after another where it is asked for from within itself."""

    def one(item: Given) -> Told:
        if _abandoned():
            raise AbandonedError
        return act(item)

    def as_part(item: Given) -> Told:
        _here.is_part = True
        return one(item)

    # A thread of the pool that waited for the pool would wait for ever.
    return [one(item) for item in given] if getattr(_here, "is_part", False) else list(_pool.map(as_part, given))
