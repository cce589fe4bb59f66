"""Times in pairs with the yardstick: a shared host runs at changing speed, within one run too."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass


@dataclass(frozen=True)
class Told:
    """A figure: the median of its times, and the median of its ratios to the yardsticks run beside each."""

    ms: float
    ratio: float


def yardstick_ms() -> float:
    """A million additions in plain Python, once."""
    begun = time.perf_counter()
    total = 0
    for i in range(1_000_000):
        total += i
    return (time.perf_counter() - begun) * 1e3


class Pairs:
    """Times of the same thing, each with a yardstick run right before it."""

    def __init__(self) -> None:
        self.spent_ms: list[float] = []
        self.yards_ms: list[float] = []

    @contextmanager
    def one(self) -> Iterator[None]:
        """Time what is done within."""
        yard_ms = yardstick_ms()
        begun = time.perf_counter()
        yield
        self.add((time.perf_counter() - begun) * 1e3, yard_ms)

    def add(self, spent_ms: float, yard_ms: float) -> None:
        """A time that was measured elsewhere, and the yardstick beside it."""
        self.spent_ms.append(spent_ms)
        self.yards_ms.append(yard_ms)

    def told(self, *, leave_out: int = 0) -> Told:
        """The medians, without the first few; NaN where nothing was timed."""
        pairs = list(zip(self.spent_ms, self.yards_ms, strict=True))[leave_out:]
        if not pairs:
            return Told(float("nan"), float("nan"))
        return Told(statistics.median(ms for ms, _ in pairs), statistics.median(ms / yard for ms, yard in pairs))


def timed(act: Callable[[], object], times: int) -> Told:
    """`act` so many times in turn with the yardstick, after a second of the same work: a cold processor would tell another story."""
    end = time.perf_counter() + 1.0
    while time.perf_counter() < end:
        act()
    pairs = Pairs()
    for _ in range(times):
        with pairs.one():
            act()
    return pairs.told()
