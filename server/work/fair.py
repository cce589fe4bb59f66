"""Turns at the engine: a few at a time, a bounded line, fair by cook.

Each cook has a line of their own and the lines are served in rotation, so that one who drags a
hundred things does not keep another from a plan. A line that is full is told at once.
"""

from __future__ import annotations

import threading
import time
from collections import OrderedDict, deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager

LOOK_EVERY_S = 0.1


class BusyError(Exception):
    """No turn now. `mine`: this cook's own line is full; else everybody's is."""

    def __init__(self, retry_after_s: int, *, mine: bool) -> None:
        super().__init__("Mattone is busy; try again in a moment." if not mine else "Too much at once; try again in a moment.")
        self.retry_after_s, self.mine = retry_after_s, mine


class GoneError(Exception):
    """Whoever asked has left."""


class FairLine:
    """At most `slots` turns at once, `most` waiting in all and `most_each` of one cook."""

    def __init__(self, slots: int, most: int, most_each: int) -> None:
        self.slots, self.most, self.most_each = slots, most, most_each
        self._changed = threading.Condition()
        self._free = slots
        self._lines: OrderedDict[int, deque[object]] = OrderedDict()
        self._called: set[object] = set()

    @property
    def waiting(self) -> int:
        with self._changed:
            return self._waiting()

    def _waiting(self) -> int:
        return sum(len(line) for line in self._lines.values())

    @contextmanager
    def turn(self, cook: int, *, gone: Callable[[], bool] = lambda: False, patience_s: float = 30.0) -> Iterator[None]:
        """Wait for a turn and hold it. Raises BusyError or GoneError."""
        me = object()
        with self._changed:
            if self._waiting() >= self.most:
                raise BusyError(5, mine=False)
            if len(self._lines.get(cook, ())) >= self.most_each:
                raise BusyError(1, mine=True)
            self._lines.setdefault(cook, deque()).append(me)
            self._call()
            end = time.monotonic() + patience_s
            while me not in self._called:
                if gone():
                    self._leave(cook, me)
                    raise GoneError
                if time.monotonic() > end:
                    self._leave(cook, me)
                    raise BusyError(5, mine=False)
                self._changed.wait(LOOK_EVERY_S)
            self._called.discard(me)
        try:
            yield
        finally:
            with self._changed:
                self._free += 1
                self._call()

    def _call(self) -> None:
        """Call whoever is next, while there is a slot; the cook called goes to the end of the rotation."""
        while self._free and self._lines:
            cook, line = next(iter(self._lines.items()))
            self._called.add(line.popleft())
            self._free -= 1
            del self._lines[cook]
            if line:
                self._lines[cook] = line
        self._changed.notify_all()

    def _leave(self, cook: int, me: object) -> None:
        line = self._lines.get(cook)
        if line is not None and me in line:
            line.remove(me)
            if not line:
                del self._lines[cook]
