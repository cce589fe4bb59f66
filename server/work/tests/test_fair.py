"""Turns at the engine: bounded, fair, given up by who left."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from work.answers import Recent
from work.fair import BusyError, FairLine, GoneError


class Held:
    """Takes turns in threads and notes the order they were served in."""

    def __init__(self, line: FairLine) -> None:
        self.line, self.served, self.threads = line, list[int](), list[threading.Thread]()
        self.release = threading.Event()
        self.errors: list[Exception] = []

    def take(self, cook: int, *, hold: bool = False, gone: Callable[[], bool] = lambda: False, patience_s: float = 20.0) -> None:
        def run() -> None:
            try:
                with self.line.turn(cook, gone=gone, patience_s=patience_s):
                    self.served.append(cook)
                    if hold:
                        self.release.wait(10)
            except (BusyError, GoneError) as error:
                self.errors.append(error)

        thread = threading.Thread(target=run)
        before = self.line.waiting + len(self.served) + len(self.errors)
        thread.start()
        self.threads.append(thread)
        until(lambda: self.line.waiting + len(self.served) + len(self.errors) > before)

    def finish(self) -> None:
        self.release.set()
        for thread in self.threads:
            thread.join(10)


def until(true: Callable[[], Any], seconds: float = 5.0) -> None:
    end = time.monotonic() + seconds
    while not true():
        assert time.monotonic() < end, "it did not come to pass"
        time.sleep(0.002)


class Turns(TestCase):
    def test_one_who_asks_much_does_not_keep_another_waiting(self) -> None:
        held = Held(FairLine(slots=1, most=50, most_each=20))
        held.take(0, hold=True)
        for _ in range(10):
            held.take(1)
        held.take(2)
        held.take(3)
        held.finish()
        self.assertEqual(held.served[0], 0)
        # One of the first cook's may be before each of the others, not ten.
        self.assertLessEqual(held.served.index(2), 3)
        self.assertLessEqual(held.served.index(3), 4)
        self.assertEqual(len(held.served), 13)

    def test_a_full_line_is_told_at_once(self) -> None:
        held = Held(FairLine(slots=1, most=4, most_each=3))
        held.take(0, hold=True)
        for _ in range(3):
            held.take(1)
        with self.assertRaises(BusyError) as mine, held.line.turn(1):
            pass
        self.assertTrue(mine.exception.mine)
        held.take(2)
        with self.assertRaises(BusyError) as everybodys, held.line.turn(3):
            pass
        self.assertFalse(everybodys.exception.mine)
        self.assertGreater(everybodys.exception.retry_after_s, 0)
        held.finish()
        self.assertEqual((sorted(held.served), held.errors), ([0, 1, 1, 1, 2], []))

    def test_who_left_and_who_lost_patience_free_their_places(self) -> None:
        held = Held(FairLine(slots=1, most=10, most_each=10))
        held.take(0, hold=True)
        left = threading.Event()
        held.take(1, gone=left.is_set)
        held.take(2, patience_s=0.05)
        left.set()
        until(lambda: len(held.errors) == 2)
        self.assertEqual({type(error) for error in held.errors}, {GoneError, BusyError})
        self.assertEqual(held.line.waiting, 0)
        held.take(3)
        held.finish()
        self.assertEqual(held.served, [0, 3])

    def test_a_turn_that_fails_gives_its_place_back(self) -> None:
        line = FairLine(slots=1, most=2, most_each=2)
        for _ in range(3):
            with self.assertRaises(ZeroDivisionError), line.turn(1):
                1 / 0  # noqa: B018
        with line.turn(1):
            self.assertEqual(line.waiting, 0)

    @settings(max_examples=25)
    @given(st.lists(st.integers(0, 4), min_size=1, max_size=30), st.integers(1, 3))
    def test_all_are_served_once_and_never_more_at_once_than_there_are_slots(self, cooks: list[int], slots: int) -> None:
        line, lock = FairLine(slots, most=100, most_each=100), threading.Lock()
        now = most = served = 0

        def act(cook: int) -> None:
            nonlocal now, most, served
            with line.turn(cook):
                with lock:
                    now += 1
                    most = max(most, now)
                with lock:
                    now -= 1
                    served += 1

        threads = [threading.Thread(target=act, args=(cook,)) for cook in cooks]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join(10)
        self.assertEqual((served, line.waiting), (len(cooks), 0))
        self.assertLessEqual(most, slots)


class Kept(TestCase):
    @settings(max_examples=50)
    @given(st.lists(st.tuples(st.integers(0, 9), st.integers(0, 400)), max_size=60))
    def test_recent_answers_never_pass_their_bound(self, puts: list[tuple[int, int]]) -> None:
        recent = Recent(1000)
        last: dict[str, str] = {}
        for key, size in puts:
            last[str(key)] = "x" * size
            recent.put(str(key), last[str(key)])
            self.assertLessEqual(recent.chars, 1000)
        for key, body in last.items():
            self.assertIn(recent.get(key), (None, body))
        if puts:
            self.assertEqual(recent.get(str(puts[-1][0])), last[str(puts[-1][0])])
