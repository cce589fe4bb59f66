"""Heating the deck."""

from unittest import TestCase

import numpy as np
from mattone_engine.heat.preheat import deck_cells, preheat
from mattone_engine.things import Hearth, Surface
from rigs import bake_on, played

# How far a deck may overshoot before the walls have caught up.
OVERSHOOT_K = 3.0


class Preheating(TestCase):
    def test_more_preheat_never_cools_the_deck(self) -> None:
        for kind, thick in (("steel", 6.0), ("steel", 10.0), ("stone", 15.0), ("stone", 30.0)):
            for level in (1, 3, 5):
                with self.subTest(kind=kind, thick=thick, level=level):
                    heated = preheat(Hearth(setpoint_c=250, level=level), Surface(kind=kind, thickness_mm=thick), 90)
                    best_so_far = np.maximum.accumulate(heated.deck_c)
                    self.assertLess(float((best_so_far - heated.deck_c).max()), OVERSHOOT_K)
                    half_hour = heated.deck_c[heated.t_s == 1800][0]
                    self.assertGreater(heated.deck_c[-60:].mean(), half_hour - OVERSHOOT_K)

    def test_minutes_to_settle_are_near_what_thermometers_show(self) -> None:
        """Within 15 % of the reference minutes to within 5 K of the plateau at 250 C."""
        for kind, thick, minutes in (("steel", 6.0, 30.0), ("steel", 10.0, 43.0), ("stone", 15.0, 36.0), ("stone", 30.0, 69.0)):
            with self.subTest(kind=kind, thick=thick):
                heated = preheat(Hearth(setpoint_c=250, level=3), Surface(kind=kind, thickness_mm=thick), 150)
                settled = heated.deck_c[-90:].mean()
                reached = heated.t_s[int(np.argmax(heated.deck_c > settled - 5.0))] / 60.0
                self.assertAlmostEqual(reached / minutes, 1.0, delta=0.15)

    def test_a_dial_that_lies_shifts_the_plateau(self) -> None:
        honest = preheat(Hearth(setpoint_c=250), Surface(kind="steel", thickness_mm=6), 90).deck_c[-60:].mean()
        cool = preheat(Hearth(setpoint_c=250, dial_error_k=-14), Surface(kind="steel", thickness_mm=6), 90).deck_c[-60:].mean()
        self.assertAlmostEqual(honest - cool, 14.0, delta=1.5)

    def test_cells_fill_the_deck(self) -> None:
        for kind in ("steel", "stone"):
            widths, half = deck_cells(Surface(kind=kind, thickness_mm=15))
            self.assertAlmostEqual(float(widths.sum()), 0.015)
            self.assertTrue((half > 0).all())

    def test_kinds_of_oven_differ_as_they_are_built(self) -> None:
        """A small box is hot sooner; a gas oven, fired from below, gives a rim less."""
        deck = Surface(kind="stone", thickness_mm=12)
        big = preheat(Hearth(setpoint_c=230), deck, 15).air_c[-1]
        small = preheat(Hearth(kind="countertop_oven", setpoint_c=230, levels=3, level=2), deck, 15).air_c[-1]
        self.assertGreater(small, big)
        rims = []
        for kind in ("electric_oven", "gas_oven"):
            _, result, _ = played(bake_on(hearth=Hearth(kind=kind, setpoint_c=260, level=4)), 480)
            rims.append(float(result.rim_l[-1]))
        self.assertLess(rims[0], rims[1])
