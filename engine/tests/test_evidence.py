"""The model beside bakes of general practice, and its parameters inside their physics."""

from unittest import TestCase

from mattone_engine.evidence import outside, reference_bakes
from mattone_engine.heat.parameters import parameters


class ReferenceBakes(TestCase):
    def test_times_and_losses_are_near_what_cooks_see(self) -> None:
        """Every bake inside its window, every loss within 3 points of its band."""
        for bake in reference_bakes():
            result = bake.result()
            with self.subTest(bake.name):
                self.assertEqual(outside(result.likely_done_s, *bake.window_s), 0.0)
                if bake.loss_pct is not None:
                    self.assertLessEqual(abs(outside(result.at_done.loss_pct, *bake.loss_pct)), 3.0)

    def test_no_parameter_lies_at_a_bound(self) -> None:
        for name, p in parameters().items():
            low, high = p.range
            with self.subTest(name):
                self.assertTrue(0.02 < (p.value - low) / (high - low) < 0.98)
