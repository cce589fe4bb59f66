"""The model beside bakes of general practice, and its parameters inside their physics."""

from unittest import TestCase

from mattone_engine.evidence import outside, reference_bakes
from mattone_engine.heat.parameters import parameters


class ReferenceBakes(TestCase):
    def test_times_and_losses_are_near_what_cooks_see(self) -> None:
        """No bake misses its window by more than 10 %, most are inside; loss within 4 points."""
        inside = 0
        for bake in reference_bakes():
            told = bake.told()
            low, high = bake.window_s
            with self.subTest(bake.name):
                off = outside(told.likely_done_s, low, high)
                self.assertLess(abs(off) / low, 0.10)
                if bake.loss_pct is not None:
                    self.assertLess(abs(outside(told.at_done.loss_pct, *bake.loss_pct)), 4.0)
            inside += off == 0
        self.assertGreaterEqual(inside, 5)

    def test_no_parameter_lies_at_a_bound(self) -> None:
        for name, p in parameters().items():
            low, high = p.range
            with self.subTest(name):
                self.assertTrue(0.02 < (p.value - low) / (high - low) < 0.98)
