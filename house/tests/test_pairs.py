"""Benchmarks are told in pairs with their yardstick."""

from __future__ import annotations

import math
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from bench.pairs import Pairs, Told, timed, yardstick_ms

TIMES = st.lists(st.tuples(st.floats(0.1, 1e4), st.floats(1.0, 500.0)), min_size=1, max_size=30)


class InPairs(TestCase):
    @given(TIMES, st.floats(0.3, 8.0))
    def test_a_host_that_changes_its_speed_changes_no_ratio(self, times: list[tuple[float, float]], slower: float) -> None:
        plain, changed = Pairs(), Pairs()
        for i, (spent, yard) in enumerate(times):
            plain.add(spent, yard)
            factor = slower if i % 2 else 1.0
            changed.add(spent * factor, yard * factor)
        self.assertTrue(math.isclose(plain.told().ratio, changed.told().ratio, rel_tol=1e-9))

    @given(TIMES)
    def test_a_ratio_lies_among_those_of_the_pairs(self, times: list[tuple[float, float]]) -> None:
        pairs = Pairs()
        for spent, yard in times:
            pairs.add(spent, yard)
        ratios = [spent / yard for spent, yard in times]
        self.assertTrue(min(ratios) <= pairs.told().ratio <= max(ratios))

    def test_the_first_may_be_left_out_and_none_is_no_number(self) -> None:
        pairs = Pairs()
        pairs.add(1000.0, 10.0)
        self.assertEqual(pairs.told(), Told(1000.0, 100.0))
        self.assertTrue(math.isnan(pairs.told(leave_out=1).ratio))
        pairs.add(20.0, 10.0)
        self.assertEqual(pairs.told(leave_out=1).ratio, 2.0)

    def test_the_yardstick_beside_itself_is_about_one(self) -> None:
        self.assertTrue(0.3 < timed(yardstick_ms, 3).ratio < 3.0)
