"""Bakes side by side: the kernels release the interpreter's lock, so threads are enough."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

Given = TypeVar("Given")
Told = TypeVar("Told")


def _new_pool() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(max_workers=max(1, os.cpu_count() or 1), thread_name_prefix="bake")


_pool = _new_pool()


def _after_fork() -> None:
    # A forked child inherits the pool but not its threads.
    global _pool
    _pool = _new_pool()


os.register_at_fork(after_in_child=_after_fork)


def side_by_side(act: Callable[[Given], Told], given: Iterable[Given]) -> list[Told]:
    """`act` of each, in order. Must not be called from within itself."""
    return list(_pool.map(act, given))
