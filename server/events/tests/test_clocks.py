"""When things happened, by both clocks of a device: a clock that was set back is found out; one that was not is left alone."""

from __future__ import annotations

import random
import uuid
from datetime import UTC, datetime, timedelta

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from events.clocks import PART_MS, settled
from events.models import Event

T0 = datetime(2026, 11, 6, 18, 0, tzinfo=UTC)
RUN = uuid.UUID(int=7)
STEPS = st.lists(st.integers(1, 600_000), min_size=2, max_size=8)


def told(at_ms: float, ticks_ms: int | None, run: uuid.UUID | None = RUN) -> Event:
    return Event(kind="bake.seen", subject_id=1, at=T0 + timedelta(milliseconds=at_ms), run=run, ticks_ms=ticks_ms, payload={})


def off_ms(events: list[Event], true_ms: list[int]) -> list[float]:
    """How far each lies from its true time."""
    return [(event.at - T0).total_seconds() * 1000.0 - one for event, one in zip(events, true_ms, strict=True)]


class Clocks(SimpleTestCase):
    @given(steps=STEPS, cut=st.integers(0, 7), ahead_ms=st.integers(int(2 * PART_MS), 86_400_000), seed=st.integers(0, 99))
    def test_what_was_told_by_a_clock_that_ran_ahead_is_put_right_whatever_the_order(self, steps: list[int], cut: int, ahead_ms: int, seed: int) -> None:
        true = [sum(steps[: i + 1]) for i in range(len(steps))]
        cut = min(cut, len(true) - 1)
        events = [told(ms + (ahead_ms if i < cut else 0), ms) for i, ms in enumerate(true)]
        shuffled = events[:]
        random.Random(seed).shuffle(shuffled)
        found = settled(shuffled)
        self.assertEqual([one.ticks_ms for one in found], true)
        self.assertLess(max(map(abs, off_ms(found, true))), 0.01)

    @given(steps=STEPS, asleep_ms=st.integers(0, 3_600_000), drift_ms=st.floats(-400, 400))
    def test_a_sleep_and_a_small_drift_move_nothing(self, steps: list[int], asleep_ms: int, drift_ms: float) -> None:
        true = [sum(steps[: i + 1]) for i in range(len(steps))]
        half = len(true) // 2
        events = [told(ms + (asleep_ms if i >= half else 0) + (drift_ms if i % 2 else 0.0), ms) for i, ms in enumerate(true)]
        before = [one.at for one in events]
        settled(events)
        self.assertEqual([one.at for one in events], before)

    def test_each_opened_page_and_each_device_by_itself_and_none_that_did_not_say(self) -> None:
        other = uuid.UUID(int=8)
        events = [told(900_000, 0), told(60_000, 0, other), told(300_000, None, None), told(120_000, 120_000)]
        self.assertEqual([(one.at - T0).total_seconds() for one in settled(events)], [0.0, 60.0, 120.0, 300.0])
