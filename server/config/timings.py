"""How long each test takes, in whichever process it runs; the slowest are printed with the result."""

from __future__ import annotations

import time
import unittest
from collections import defaultdict
from typing import Any

from django.test.runner import ParallelTestSuite, RemoteTestResult, RemoteTestRunner

SLOWEST, SLOWEST_FILES = 25, 15
Timed = list[tuple[float, str]]


class TimedResult(unittest.TextTestResult):
    """A result that knows how long each test took, s."""

    def __init__(self, *words: Any, **more: Any) -> None:
        super().__init__(*words, **more)
        self.times: Timed = []
        self._began = 0.0
        self._timed = False

    def startTest(self, test: unittest.TestCase) -> None:
        self._began, self._timed = time.perf_counter(), False
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        # What another process has timed is replayed here in no time.
        if not self._timed:
            self.times.append((time.perf_counter() - self._began, test.id()))

    def addTime(self, test: unittest.TestCase, seconds: float) -> None:
        """Told by the process that ran the test, before its end is replayed."""
        self._timed = True
        self.times.append((seconds, test.id()))


class TimedRemoteResult(RemoteTestResult):
    """In a process of its own: each test's time is an event like its outcome."""

    def startTest(self, test: unittest.TestCase) -> None:
        self._began = time.perf_counter()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        self.events.append(("addTime", self.test_index, time.perf_counter() - self._began))
        super().stopTest(test)


class TimedRemoteRunner(RemoteTestRunner):
    resultclass = TimedRemoteResult


class TimedParallelSuite(ParallelTestSuite):
    runner_class = TimedRemoteRunner


def summary(times: Timed) -> str:
    """The slowest tests, and the files that take longest in all."""
    files: dict[str, list[float]] = defaultdict(list)
    for seconds, name in times:
        files[".".join(name.split(".")[:-2])].append(seconds)
    by_file = sorted(((sum(rows), name, len(rows)) for name, rows in files.items()), reverse=True)
    lines = [f"{sum(seconds for seconds, _ in times):.0f} s in {len(times)} tests, setting up of classes apart; the slowest:"]
    lines += [f"  {seconds:7.1f} s  {name}" for seconds, name in sorted(times, reverse=True)[:SLOWEST]]
    lines += ["and by file:"] + [f"  {seconds:7.1f} s  {name} ({count})" for seconds, name, count in by_file[:SLOWEST_FILES]]
    return "\n".join(lines)
