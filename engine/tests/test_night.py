"""An evening of several pizzas: the next launch from the deck as it is, and what the first ones told of the oven."""

from __future__ import annotations

import math
from functools import cache
from unittest import TestCase

import numpy as np
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import RowInput, row
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.heat import column as k
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.preheat import recover
from mattone_engine.heat.run import Bake
from mattone_engine.heat.variation import varied
from mattone_engine.live.answer import LiveResult, live
from mattone_engine.live.ensemble import PLACED, truth_of
from mattone_engine.live.hands import hands_before
from mattone_engine.live.journal import Earlier, Journal, LiveInput, Reading, Seen
from mattone_engine.live.night import Left, Night, night_of
from mattone_engine.things import HearthLimits, Pan
from pydantic import ValidationError
from test_live import DONE, ON_STEEL, ask

PULLED_S = 2700.0 + 300.0


def earlier(*seen: Seen, pulled_s: float = PULLED_S, launched_s: float = 2700.0) -> Earlier:
    return Earlier(journal=Journal(launched_s=launched_s, done=DONE, seen=seen), pulled_s=pulled_s)


@cache
def told(journal: Journal, now_s: float, before: tuple[Earlier, ...] = (), together: int = 1) -> LiveResult:
    return live(LiveInput(plan=ask(), controls=ON_STEEL, journal=journal, now_s=now_s, seed=3, earlier=before, together=together))


class NextLaunch(TestCase):
    def test_right_after_a_pull_the_deck_is_waited_for(self) -> None:
        result = told(Journal(), PULLED_S + 5.0, (earlier(),))
        assert result.launch is not None and result.launch.wanted_c is not None
        self.assertLess(result.launch.deck_now_c, result.launch.wanted_c - 10.0)
        by_s = result.launch.at_s - PULLED_S
        likely = row(RowInput(bake=bake_of(ask(), ON_STEEL), count=2)).launches[0].back_min
        assert likely is not None
        self.assertTrue(0.5 * likely < by_s / 60.0 < 2.0 * likely, (by_s / 60.0, likely))
        self.assertGreater(result.launch.at_s_high, result.launch.at_s)

    def test_it_is_never_ready_before_now_and_later_it_is_as_good_as_ready(self) -> None:
        result = told(Journal(), PULLED_S + 1500.0, (earlier(),))
        assert result.launch is not None
        self.assertEqual(result.launch.at_s, PULLED_S + 1500.0)
        self.assertIn("as good as ready", result.launch.at_once)

    def test_a_cold_reading_between_two_moves_the_next_launch(self) -> None:
        now_s = PULLED_S + 60.0
        usual = told(Journal(), now_s, (earlier(),)).launch
        assert usual is not None
        cold = told(Journal(readings=(Reading(since_heat_s=now_s, deck_c=usual.deck_now_c - 25.0),)), now_s, (earlier(),)).launch
        assert cold is not None
        self.assertLess(cold.deck_now_c, usual.deck_now_c - 4.0)
        self.assertGreater(cold.at_s, usual.at_s)

    def test_a_launch_without_waiting_bakes_longer(self) -> None:
        at_once = told(Journal(launched_s=PULLED_S + 20.0, done=DONE), 0.0, (earlier(),))
        waited = told(Journal(launched_s=PULLED_S + 900.0, done=DONE), 0.0, (earlier(),))
        assert at_once.pull is not None and waited.pull is not None and at_once.deck_c is not None and waited.deck_c is not None
        self.assertLess(at_once.deck_c.likely, waited.deck_c.likely - 10.0)
        self.assertGreater(at_once.pull.likely, 1.03 * waited.pull.likely)

    def test_the_deck_that_is_left_is_the_one_that_was_baked_on(self) -> None:
        """A draw that is the likely one finds exactly what a bake leaves and the hearth makes of it."""
        spec = bake_of(ask(), ON_STEEL)
        truth = truth_of(ask().knowledge, np.zeros(PLACED))
        hearth = varied(spec.hearth, truth.variation)
        heated = heat_up(spec, hearth, truth.values)
        bake = Bake(spec, quick=True, values=truth.values, variation=truth.variation, heated=heated)
        bake.advance_to(300.0)
        night = Night(np.zeros((0, 0)), (Left(heated, bake.left_behind(), 2700.0, PULLED_S),))
        found = night.heated(spec, PULLED_S + 240.0, truth)
        direct = recover(hearth, spec.deck, bake.left_behind(), 240.0, events=(), overhead=None, values=truth.values)
        np.testing.assert_allclose(found.profile_c, direct.profile_c, atol=1e-9)
        self.assertEqual((found.t_s[0], found.t_s[-1]), (PULLED_S, PULLED_S + 240.0))


class WhatTheFirstTells(TestCase):
    def test_an_oven_that_browned_the_first_sooner_is_expected_to_brown_the_next(self) -> None:
        launched = Journal(launched_s=PULLED_S + 900.0, done=DONE)
        windows = {}
        for name, l_star in (("dark", 58.0), ("pale", 80.0)):
            before = earlier(Seen(at_s=200, base=l_star, rim=l_star), Seen(at_s=290, base=l_star - 4.0, rim=l_star - 4.0))
            windows[name] = told(launched, 0.0, (before,)).pull
        untold = told(launched, 0.0, (earlier(),)).pull
        dark, pale = windows["dark"], windows["pale"]
        assert dark is not None and pale is not None and untold is not None
        self.assertLess(dark.likely, untold.likely)
        self.assertGreater(pale.likely, untold.likely)
        # And it is known better than the first was.
        self.assertLess(math.log(dark.high / dark.low), 0.9 * math.log(untold.high / untold.low))

    def test_the_same_evening_is_told_the_same_twice_and_for_three(self) -> None:
        first, second = earlier(), earlier(launched_s=PULLED_S + 600.0, pulled_s=PULLED_S + 900.0)
        asked = LiveInput(plan=ask(), controls=ON_STEEL, journal=Journal(), now_s=PULLED_S + 930.0, seed=3, earlier=(first, second))
        once = live(asked)
        night_of.__globals__["_after"].cache_clear()
        self.assertEqual(live(asked), once)
        assert once.launch is not None
        self.assertGreater(once.launch.at_s, PULLED_S + 930.0)

    def test_two_taps_exchanged_are_refused_in_words(self) -> None:
        for before, launched_s in (((earlier(),), 2800.0), ((earlier(),), 100.0)):
            with self.assertRaises(ValidationError) as refused:
                LiveInput(plan=ask(), controls=ON_STEEL, journal=Journal(launched_s=launched_s), now_s=10.0, earlier=before)
            self.assertIn("exchanged", first_input_error(refused.exception).message)
        with self.assertRaises(ValidationError):
            earlier(pulled_s=2600.0)
        with self.assertRaises(ValidationError):
            earlier(Seen(at_s=320, base=60.0))


class Hands(TestCase):
    def test_hands_do_one_thing_after_another_and_are_free_at_the_launch(self) -> None:
        for plan, controls in ((ask(), ON_STEEL), (ask("roman_tray", surface=None, pan=TwoAtOnce.TRAY), TwoAtOnce.ON_TRAY)):
            found = hands_before(plan, controls)
            self.assertEqual([one.at_s for one in found], sorted({one.at_s for one in found}))
            self.assertTrue(all(-900 < one.at_s < 0 for one in found))
            peel = any("peel" in one.label for one in found)
            self.assertEqual(peel, plan.pan is None)

    def test_what_the_plan_asks_for_is_asked_of_hands(self) -> None:
        def labels(**changes: object) -> str:
            return " ".join(one.label for one in hands_before(ask(), ON_STEEL.model_copy(update=changes)))

        self.assertIn("freezer", labels(cheese="frozen"))
        self.assertNotIn("freezer", labels())
        # A base that is baked bare first is topped when it comes out.
        self.assertNotIn("toppings", labels(par_bake_s=90.0))


class TwoAtOnce(TestCase):
    TRAY = Pan(kind="blue_steel", thickness_mm=1.2)
    ON_TRAY = Controls(setpoint_c=250, level=2, preheat_min=25)

    def tray(self, **more: HearthLimits) -> PlanInput:
        return ask("roman_tray", surface=None, pan=self.TRAY, **more)

    def told(self, together: int) -> LiveResult:
        journal = Journal(launched_s=1500)
        return live(LiveInput(plan=self.tray(), controls=self.ON_TRAY, journal=journal, now_s=0.0, seed=3, together=together))

    def test_two_trays_change_their_places(self) -> None:
        alone, both = self.told(1), self.told(2)
        assert alone.pull is not None and both.pull is not None
        self.assertNotAlmostEqual(both.pull.likely, alone.pull.likely, delta=5.0)
        self.assertEqual([one.label for one in both.coming], ["Change the two trays' places"])
        self.assertTrue(all(one.do != "move" for one in alone.coming))

    def test_a_balance_is_kept_with_two(self) -> None:
        spec = bake_of(self.tray(), self.ON_TRAY).model_copy(update={"together": 2})
        bake = Bake(spec)
        bake.advance_to(600.0)
        trace = bake.trace()
        self.assertLess(max(trace.energy_closure, trace.water_closure), 1e-9)
        alone = Bake(spec.model_copy(update={"together": 1}))
        alone.advance_to(600.0)
        # The thermostat makes up for twice the food where it can: what each gets is a little less.
        one = alone.trace()
        self.assertGreater(trace.rows[-1, 0, k.R_BASE_L], one.rows[-1, 0, k.R_BASE_L])
        self.assertLess(trace.rows[-1, 0, k.R_LOST], one.rows[-1, 0, k.R_LOST])

    def test_on_a_deck_or_with_three_levels_two_are_refused(self) -> None:
        for plan, controls in ((ask(), ON_STEEL), (self.tray(hearth=HearthLimits(max_setpoint_c=275, levels=3)), self.ON_TRAY)):
            with self.assertRaises(ValidationError) as refused:
                LiveInput(plan=plan, controls=controls, now_s=0.0, together=2)
            found = first_input_error(refused.exception)
            self.assertIsInstance(found, InputError)
            self.assertIn("one after another", found.message)
