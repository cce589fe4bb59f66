"""What hidden kitchens teach: windows that shrink and hold, ovens that are known on another deck, entries that are wrong."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
from mattone_engine.evidence.learning_study import AFTER, HiddenKitchen, curves, error_80, inside_pct, likely_by, typos
from mattone_engine.evidence.live_studies import evenings
from mattone_engine.knowledge.truths import Z80
from mattone_engine.learn.kitchen import USUAL_SD, Logged
from mattone_engine.things.knowledge import GENERAL


class HiddenKitchens(TestCase):
    def test_windows_shrink_and_hold(self) -> None:
        found = curves(16, seed=41)
        stages = [[one[i] for one in found] for i in range(len(AFTER))]
        widths = [float(np.mean([one.width_ln for one in stage])) for stage in stages]
        self.assertEqual(widths, sorted(widths, reverse=True))
        self.assertLess(widths[-1], 0.45 * widths[0])
        self.assertLess(error_80(stages[-1]), 0.6 * error_80(stages[0]))
        self.assertGreater(inside_pct([one for stage in stages for one in stage]), 65.0)

    def test_an_oven_that_bakes_later_is_told_to_bake_later_on_another_deck_too(self) -> None:
        kitchen, evening = HiddenKitchen(0), evenings()[0]
        slow = [Logged(str(i), "oven", "rig", 7.0 * i, one) for i, one in enumerate([kitchen.logged(evening, reads=True)] * 3)]
        off = sum(share * one.off_ln for share, one in zip(slow[0].lesson.shares, slow[0].lesson.sightings, strict=True))
        untold, taught = likely_by(evenings()[1], [], "other")[1], likely_by(evenings()[1], slow, "other")[1]
        self.assertGreater(math.copysign(1.0, off) * math.log(taught / untold), 0.0)

    def test_minutes_written_down_double_or_half_move_little(self) -> None:
        # A first record may be wrong by half and still be ordinary: nothing is known that speaks against it.
        for right, most in ((0, 1.6), (2, 1.2)):
            self.assertLess(float(typos(right, 6).max()), math.log(most))

    def test_dials_spread_is_eighty_percent(self) -> None:
        self.assertAlmostEqual(USUAL_SD["dial_k"] * Z80, GENERAL.dial_k.spread)
