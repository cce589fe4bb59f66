"""A bake under way: what is told moves what is known, in whatever order, and the same twice."""

from __future__ import annotations

import math
import random
from functools import cache
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.controls import Controls, Move, Span
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.limits import limits_of, refuse_controls
from mattone_engine.bake.match import portion
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.commands import run
from mattone_engine.errors import InputError
from mattone_engine.heat.colour import WORDS
from mattone_engine.heat.outcome import aim_of, series, target_of
from mattone_engine.heat.run import Bake
from mattone_engine.live.answer import LiveResult, live
from mattone_engine.live.ensemble import FIRST_DRAWS, SMOOTH, first_places, systematic
from mattone_engine.live.following import within
from mattone_engine.live.happened import as_it_was, still_planned
from mattone_engine.live.journal import Journal, LiveInput, Reading, Seen, Sign, Skipped
from mattone_engine.live.possible import possible, stands_at
from mattone_engine.live.sightings import EYE_L, readings_ln, shade_ln
from mattone_engine.styles import styles
from mattone_engine.things import Event, HearthLimits, Pan, SimulateInput, Surface

STEEL = Surface(kind="steel", thickness_mm=10)
STONE = Surface(kind="stone", thickness_mm=15)
IRON = Pan(kind="cast_iron", thickness_mm=5)
OVEN = HearthLimits(max_setpoint_c=275)
ON_STEEL = Controls(setpoint_c=275, level=4, preheat_min=45, top_element=Span(on_s=0, off_s=60), turn_s=185)


def ask(key: str = "home_oven_round", *, surface: Surface | None = STEEL, pan: Pan | None = None, hearth: HearthLimits = OVEN, **more: Any) -> PlanInput:
    dough, toppings = portion(styles()[key], 531.0 if pan is not None else None)
    return PlanInput(hearth=hearth, surface=surface, pan=pan, dough=dough, toppings=toppings, style=key, **more)


def told(journal: Journal, now_s: float, *, plan: PlanInput | None = None, controls: Controls = ON_STEEL, seed: int = 3) -> LiveResult:
    return live(LiveInput(plan=plan or ask(), controls=controls, journal=journal, now_s=now_s, seed=seed))


@cache
def at_launch() -> LiveResult:
    return told(LAUNCHED, 0.0)


HEATS_THE_BASE = {"shield", "hob_30", "hob_60"}
HEATS_THE_TOP = {"element_on", "element_minute"}
DONE = (Event(at_s=0, do="top_element_on"), Event(at_s=60, do="top_element_off"))
LAUNCHED = Journal(launched_s=2700)


def look(at_s: float, base: float | str, rim: float | str) -> Journal:
    return Journal(launched_s=2700, done=DONE, seen=(Seen.model_validate({"at_s": at_s, "base": base, "rim": rim}),))


def width(result: LiveResult) -> float:
    assert result.pull is not None
    return math.log(result.pull.high / result.pull.low)


class Follows(TestCase):
    def test_at_launch_it_tells_what_the_plan_tells(self) -> None:
        result = at_launch()
        assert result.pull is not None and result.planned_s is not None
        self.assertAlmostEqual(result.pull.likely / result.planned_s, 1.0, delta=0.06)
        self.assertTrue(0.4 < width(result) < 1.1, width(result))
        self.assertEqual((result.base_word, result.rim_word), ("pale", "pale"))

    def test_a_look_narrows_the_window_and_moves_it_the_way_it_points(self) -> None:
        assert at_launch().pull is not None
        at_s = 0.7 * at_launch().pull.likely  # type: ignore[union-attr]
        found = {name: told(look(at_s, l_star, l_star), at_s) for name, l_star in (("dark", 60.0), ("pale", 80.0))}
        for name, result in found.items():
            self.assertLess(width(result), 0.75 * width(at_launch()), name)
        self.assertLess(found["dark"].pull.likely, at_launch().pull.likely)  # type: ignore[union-attr]
        self.assertGreater(found["pale"].pull.likely, 1.15 * found["dark"].pull.likely)  # type: ignore[union-attr]
        self.assertIn("sooner", found["dark"].says[1])
        self.assertIn("later", found["pale"].says[1])

    def test_the_part_that_is_seen_ahead_is_said_to_be_ahead(self) -> None:
        rim_first, base_first = told(look(220, 76.0, 60.0), 220), told(look(220, 60.0, 80.0), 220)
        self.assertIn("The rim is", rim_first.says[0])
        self.assertIn("ahead of the base", rim_first.says[0])
        self.assertIn("The base is", base_first.says[0])

    def test_what_holds_the_leader_back_is_ranked_before_what_drives_it_on(self) -> None:
        self.assertTrue(HEATS_THE_TOP.isdisjoint(one.key for one in told(look(200, 76.0, 62.0), 200).actions))
        self.assertTrue(HEATS_THE_BASE.isdisjoint(one.key for one in told(look(170, 66.0, 82.0), 170).actions))

    def test_what_is_left_of_the_plan_is_told_with_its_time(self) -> None:
        self.assertEqual([(one.do, one.at_s) for one in at_launch().coming], [("top_element_on", 0.0), ("top_element_off", 60.0), ("turn", 185.0)])
        left = told(look(200, 70.0, 70.0), 200)
        self.assertEqual([(one.label, one.at_s) for one in left.coming], [("Turn it half round", 185.0)])
        assert left.course is not None and left.pull is not None
        self.assertGreater(left.course.t_s[-1], left.pull.high)
        self.assertTrue(all(a >= b for a, b in zip(left.course.base_l, left.course.base_l[1:], strict=False)))

    def test_the_same_twice_and_in_any_order(self) -> None:
        seen = tuple(Seen(at_s=t, base=b, rim=r) for t, b, r in ((100.0, 82.0, 80.0), (180.0, 74.0, 70.0), (220.0, "golden", "golden")))
        readings = tuple(Reading(since_heat_s=t, deck_c=c) for t, c in ((600.0, 110.0), (1500.0, 200.0), (2650.0, 251.0)))
        whole = Journal(launched_s=2700, done=DONE, seen=seen, readings=readings)
        answer = told(whole, 221.0).model_dump_json()
        self.assertEqual(answer, told(whole, 221.0).model_dump_json())
        rng = random.Random(4)
        for _ in range(3):
            shuffled = {name: tuple(rng.sample(getattr(whole, name), 3 if name != "done" else 2)) for name in ("seen", "readings", "done")}
            self.assertEqual(answer, told(whole.model_copy(update=shuffled), 221.0).model_dump_json())

    def test_another_seed_tells_nearly_the_same(self) -> None:
        likely = [told(look(200, 70.0, 70.0), 200, seed=seed).pull.likely for seed in (1, 2, 3, 4)]  # type: ignore[union-attr]
        self.assertLess(max(likely) / min(likely), 1.08)

    def test_an_astray_oven_is_followed_though_it_was_unlikely(self) -> None:
        """A deck 38 K too cold is four times the usual error: three readings must win over it."""
        heated = Bake(bake_of(ask(), ON_STEEL), quick=True).heated
        readings = tuple(
            Reading(since_heat_s=s, deck_c=float(np.interp(s, heated.t_s, heated.deck_c)) * (1 - 38 / 262), by="probe") for s in (1200.0, 2000.0, 2690.0)
        )
        result = told(Journal(launched_s=2700, done=DONE, readings=readings), 1.0)
        assert result.deck_c is not None and result.pull is not None and at_launch().pull is not None
        self.assertLess(result.deck_c.likely, 262.0 - 20.0)
        self.assertGreater(result.pull.likely, 1.04 * at_launch().pull.likely)  # type: ignore[union-attr]

    def test_a_window_never_lies_in_the_past(self) -> None:
        result = told(look(460, 46.0, 40.0), 470)
        assert result.pull is not None
        self.assertGreaterEqual(result.pull.low, 470.0)
        self.assertEqual(result.actions[0].key, "pull_now")


class Actions(TestCase):
    def offered(self, plan: PlanInput, controls: Controls, now_s: float = 200.0) -> set[str]:
        spec = bake_of(plan, controls)
        return {one.key for one in possible(plan, spec, now_s, 200.0)}

    def test_nothing_is_offered_that_a_caution_forbids(self) -> None:
        plain = Controls(setpoint_c=230, level=3, preheat_min=45)
        self.assertIn("element_on", self.offered(ask(), plain))
        paper = ask(parchment=True, parchment_limit_c=240)
        self.assertTrue(self.offered(paper, plain).isdisjoint({"element_on", "element_minute"}))
        coated = ask("cast_iron_pan", surface=None, pan=Pan(kind="dark_aluminium", thickness_mm=2, wall_cm=5), coating_limit_c=240, hob_kw=2.0)
        self.assertTrue(self.offered(coated, plain).isdisjoint({"element_on", "hob_30"}))
        up = next(one for one in possible(coated, bake_of(coated, plain), 200.0, 400.0) if one.key == "dial_up")
        self.assertEqual(up.gives[0].setpoint_c, 240.0)
        self.assertNotIn("shield", self.offered(ask(has_sheet=False), plain))
        self.assertNotIn("shield", self.offered(ask(), plain.model_copy(update={"level": 5})))
        self.assertFalse(any(key.startswith("level") for key in self.offered(ask(), plain)), "a hot deck stays where it lies")
        self.assertNotIn("lift", self.offered(ask("cast_iron_pan", surface=None, pan=IRON), plain))

    def test_every_offered_action_could_be_asked_of_a_plan_or_is_one_of_the_moment(self) -> None:
        """What is both a control of a plan and an action of the moment stands under one rule."""
        for plan in (ask(), ask("cast_iron_pan", surface=None, pan=IRON, hob_kw=2.0), ask("cast_iron_pan", surface=STONE, pan=IRON)):
            for level in (1, 3, 5):
                controls = Controls(setpoint_c=250, level=level, preheat_min=45)
                for one in possible(plan, bake_of(plan, controls), 200.0, 200.0):
                    event = one.gives[0]
                    asked = {
                        "top_element_on": {"top_element": Span(on_s=200, off_s=300)},
                        "shield_on": {"shield": Span(on_s=200, off_s=300)},
                        "move": {"move": Move(at_s=200, level=event.level or 1)},
                    }.get(event.do)
                    if asked is not None:
                        with self.subTest(one.key, level=level):
                            refuse_controls(plan, limits_of(plan), controls.model_copy(update=asked))

    def test_a_fire_has_its_flame_and_no_switches(self) -> None:
        fire = ask("neapolitan", surface=Surface(kind="firebrick", thickness_mm=30), hearth=HearthLimits(kind="flame_oven", max_setpoint_c=450))
        offered = {one.key for one in possible(fire, bake_of(fire, Controls(setpoint_c=430, level=1, preheat_min=30)), 30.0, 40.0)}
        self.assertEqual(offered, {"flame_up", "flame_down", "lift"})

    def test_what_has_hardly_time_left_is_let_be(self) -> None:
        plan = ask()
        self.assertEqual(possible(plan, bake_of(plan, ON_STEEL), 300.0, 20.0), [])

    def test_an_action_done_is_what_was_foretold(self) -> None:
        """The first answer's effect of an action, and the answer after it was done, tell of the same pull."""
        journal = look(150, 82.0, 60.0)
        before = told(journal, 150)
        chosen = next(one for one in before.actions if one.key == "shield")
        after = told(journal.model_copy(update={"done": (*journal.done, *chosen.gives)}), 151)
        assert after.pull is not None
        self.assertAlmostEqual(after.pull.likely / chosen.pull_s, 1.0, delta=0.08)
        self.assertTrue(stands_at(as_it_was(LiveInput(plan=ask(), controls=ON_STEEL, journal=journal, now_s=151)), 151).element is False)

    def test_one_side_darker_asks_for_a_turn(self) -> None:
        journal = look(200, 70.0, 70.0).model_copy(update={"signs": (Sign(at_s=200, kind="one_side_darker"),)})
        result = told(journal, 200)
        self.assertIn("turn", [one.key for one in result.actions])
        self.assertIn("turn that side", " ".join(result.says))


class Heating(TestCase):
    def test_a_cold_reading_moves_the_launch_later_and_a_hot_one_sooner(self) -> None:
        def launch(*readings: Reading, now_s: float = 1600.0) -> Any:
            return told(Journal(readings=readings), now_s).launch

        none, cold, hot = launch(), launch(Reading(since_heat_s=1500, deck_c=165)), launch(Reading(since_heat_s=1500, deck_c=240))
        near = launch(Reading(since_heat_s=1500, deck_c=none.deck_now_c - 5.0))
        self.assertLess(hot.at_s, none.at_s)
        self.assertLess(none.at_s, cold.at_s)
        for one in (none, cold, hot):
            self.assertTrue(1600.0 <= one.at_s_low <= one.at_s <= one.at_s_high)
        # A reading as expected narrows what is likely; one far off may have more than one cause.
        self.assertLess(near.at_s_high - near.at_s_low, none.at_s_high - none.at_s_low)
        self.assertLess(cold.deck_now_c, none.deck_now_c)
        self.assertIn("Launched now it bakes", cold.at_once)

    def test_readings_of_one_minute_count_as_one(self) -> None:
        one = told(Journal(readings=(Reading(since_heat_s=1500, deck_c=190),)), 1600).launch
        many = told(Journal(readings=tuple(Reading(since_heat_s=1500 + i, deck_c=190) for i in range(20))), 1600).launch
        assert one is not None and many is not None
        self.assertAlmostEqual(one.at_s / many.at_s, 1.0, delta=0.03)
        self.assertGreater((many.at_s_high - many.at_s_low) / (one.at_s_high - one.at_s_low), 0.8)

    def test_a_pan_on_the_rack_waits_for_its_minutes(self) -> None:
        plan = ask("cast_iron_pan", surface=None, pan=IRON)
        launch = told(Journal(), 300.0, plan=plan, controls=Controls(setpoint_c=250, level=2, preheat_min=20)).launch
        assert launch is not None
        self.assertEqual((launch.at_s, launch.wanted_c), (1200.0, None))


class WhatHappened(TestCase):
    def test_what_was_done_stands_for_what_was_planned(self) -> None:
        planned = (Event(at_s=0, do="top_element_on"), Event(at_s=60, do="top_element_off"), Event(at_s=185, do="turn"))
        journal = Journal(launched_s=2700, done=(Event(at_s=12, do="top_element_on"),), skipped=(Skipped(at_s=20, do="turn"),))
        self.assertEqual([e.do for e in still_planned(planned, journal)], ["top_element_off"])

    def test_what_is_overdue_is_done_within_half_a_minute_and_what_is_to_come_at_its_time(self) -> None:
        spec = as_it_was(LiveInput(plan=ask(), controls=ON_STEEL, journal=Journal(launched_s=2400, done=DONE[:1]), now_s=90))
        self.assertEqual([(e.at_s, e.do) for e in spec.events], [(0, "top_element_on"), (120, "top_element_off"), (185, "turn")])
        self.assertEqual(spec.preheat_min, 40.0)

    @settings(max_examples=40)
    @given(st.lists(st.sampled_from(["top_element_on", "top_element_off", "turn", "fan_on", "shield_on"]), max_size=8), st.integers(0, 400))
    def test_nothing_planned_is_done_twice_or_lost(self, done: list[str], now_s: int) -> None:
        planned = bake_of(ask(), ON_STEEL).events
        journal = Journal(launched_s=2700, done=tuple(Event.model_validate({"at_s": float(i), "do": do}) for i, do in enumerate(done)))
        left = still_planned(planned, journal)
        for do in {e.do for e in planned}:
            told_of = sum(one == do for one in done)
            self.assertEqual(sum(e.do == do for e in left), max(0, sum(e.do == do for e in planned) - told_of))
        spec = as_it_was(LiveInput(plan=ask(), controls=ON_STEEL, journal=journal, now_s=now_s))
        self.assertEqual(len(spec.events), len(done) + len(left))


class Weights(TestCase):
    @given(st.floats(20, 84), st.sampled_from([word for word, _ in WORDS]))
    def test_the_words_share_out_all_that_can_be_said(self, l_star: float, word: str) -> None:
        total = sum(math.exp(shade_ln(WORDS, one, l_star, EYE_L)) for one, _ in WORDS)
        self.assertAlmostEqual(total, 1.0, places=9)
        self.assertLess(shade_ln(WORDS, word, l_star, EYE_L), 1e-12)

    def test_no_evidence_is_impossible(self) -> None:
        self.assertTrue(math.isfinite(shade_ln(WORDS, "charred", 84.0, EYE_L)))
        self.assertTrue(math.isfinite(shade_ln(WORDS, 10.0, 95.0, EYE_L)))

    @given(st.lists(st.floats(0.01, 1.0), min_size=2, max_size=40), st.integers(0, 1000))
    def test_systematic_draws_are_as_even_as_can_be(self, raw: list[float], seed: int) -> None:
        weights = np.array(raw) / sum(raw)
        counts = np.bincount(systematic(weights, np.random.default_rng(seed), 50), minlength=weights.size)
        self.assertTrue((np.abs(counts - 50 * weights) <= 1.0 + 1e-6).all())

    def test_places_are_drawn_in_pairs_about_the_mean(self) -> None:
        places = first_places(9)
        self.assertEqual(places.shape[0], FIRST_DRAWS)
        np.testing.assert_allclose(places[:, :SMOOTH].mean(axis=0), 0.0, atol=1e-12)

    @given(st.floats(-5, 5), st.floats(0.1, 3.0))
    def test_the_middle_of_a_normal_is_where_it_should_be(self, mean: float, spread: float) -> None:
        values = mean + spread * np.random.default_rng(2).standard_normal(4000)
        found = within(values, np.full(4000, 1.0 / 4000))
        self.assertAlmostEqual((found.high - found.low) / (2 * 1.2816 * spread), 1.0, delta=0.05)
        self.assertAlmostEqual(found.likely, mean, delta=0.1 * spread)

    def test_a_reading_far_off_is_a_slip_not_a_certainty(self) -> None:
        heated = Bake(bake_of(ask(), ON_STEEL), quick=True).heated
        fits = [readings_ln((Reading(since_heat_s=2600, deck_c=c),), heated) for c in (255.0, 500.0, 700.0)]
        self.assertGreater(fits[0], fits[1])
        self.assertGreater(fits[1], fits[2])
        self.assertGreater(fits[2], -30.0)


class Forked(TestCase):
    def spec(self, *events: Event, pan: Pan | None = None) -> SimulateInput:
        return bake_of(ask(), Controls(setpoint_c=260, level=3, preheat_min=45)).model_copy(update={"events": events})

    def test_a_fork_that_does_nothing_bakes_on_as_the_bake_itself(self) -> None:
        whole, begun = Bake(self.spec()), Bake(self.spec())
        whole.advance_to(480)
        begun.advance_to(203)
        fork = begun.fork(())
        fork.advance_to(480)
        np.testing.assert_allclose(fork.trace().rows[-1], whole.trace().rows[-1], rtol=0, atol=1e-9)

    def test_a_fork_does_what_a_bake_told_so_from_the_start_does_and_leaves_the_first_alone(self) -> None:
        for event in (Event(at_s=200, do="top_element_on"), Event(at_s=200, do="lift"), Event(at_s=200, do="fan_on")):
            told_so, begun = Bake(self.spec(event)), Bake(self.spec())
            told_so.advance_to(420)
            begun.advance_to(200)
            before = begun.trace().rows.copy()
            fork = begun.fork((event,))
            fork.advance_to(420)
            with self.subTest(event.do):
                np.testing.assert_allclose(fork.trace().rows[-1], told_so.trace().rows[-1], rtol=0, atol=1e-6)
                np.testing.assert_array_equal(begun.trace().rows, before)
                self.assertLess(fork.trace().energy_closure, 1e-9)
                self.assertLess(fork.trace().water_closure, 1e-9)

    def test_a_base_on_a_cool_tray_browns_slower_below_and_goes_on_above(self) -> None:
        stays, lifted = (Bake(self.spec(*events)) for events in ((), (Event(at_s=200, do="lift"),)))
        for bake in (stays, lifted):
            bake.advance_to(420)
        a, b = (series(bake.trace()) for bake in (stays, lifted))
        self.assertGreater(b.base_l[-1], a.base_l[-1] + 5.0)
        self.assertAlmostEqual(b.rim_l[-1], a.rim_l[-1], delta=3.0)

    def test_a_flame_turned_down_spares_the_rim_and_up_drives_it(self) -> None:
        plan = ask("neapolitan", surface=Surface(kind="firebrick", thickness_mm=30), hearth=HearthLimits(kind="flame_oven", max_setpoint_c=450))
        plain = bake_of(plan, Controls(setpoint_c=430, level=1, preheat_min=30))
        rims = {}
        for do in ("flame_down", "", "flame_up"):
            bake = Bake(plain.model_copy(update={"events": (Event.model_validate({"at_s": 20.0, "do": do}),) if do else ()}), quick=True)
            bake.advance_to(70)
            rims[do] = float(series(bake.trace()).rim_l[-1])
        self.assertGreater(rims["flame_down"], rims[""])
        self.assertGreater(rims[""], rims["flame_up"])

    def test_an_aim_ends_a_fork_no_sooner_than_its_pull(self) -> None:
        spec = self.spec()
        begun = Bake(spec, quick=True)
        begun.advance_to(150)
        target = target_of(spec)
        aimed, whole = begun.fork((), aim_of(target)), begun.fork(())
        for bake in (aimed, whole):
            bake.advance_to(1200)
        self.assertTrue(aimed.is_over)
        self.assertLess(aimed.now_s, 1200)


class BadInput(TestCase):
    def refused(self, **changes: Any) -> str:
        good: dict[str, Any] = {"plan": ask().model_dump(), "controls": ON_STEEL.model_dump(), "journal": {}, "now_s": 100.0}
        import json

        with self.assertRaises(InputError) as caught:
            run("live", json.dumps(good | changes))
        return str(caught.exception)

    def test_each_says_what_to_do(self) -> None:
        for changes, words in (
            ({"journal": {"seen": [{"at_s": 10, "base": "golden"}]}}, "tell the launch first"),
            ({"journal": {"launched_s": 2700, "seen": [{"at_s": 900, "base": "golden"}]}}, "is a clock wrong"),
            ({"journal": {"launched_s": 2700, "seen": [{"at_s": 10}]}}, "name at least one"),
            ({"journal": {"launched_s": 2700}, "now_s": 6000}, "end it"),
            ({"journal": {"launched_s": 2700, "done": [{"at_s": 10, "do": "flame_down"}]}}, "no flame"),
            ({"journal": {"readings": [{"since_heat_s": 10, "deck_c": 900}]}}, "700"),
            ({"journal": {"readings": [{"since_heat_s": 10, "deck_c": -41}]}}, "-40"),
        ):
            with self.subTest(words):
                self.assertIn(words, self.refused(**changes))

    def test_a_bake_that_was_forgotten_is_answered_to_its_last_minute(self) -> None:
        for now_s in (2399.0, 2500.0, 5399.0, 5400.0):
            result = told(Journal(launched_s=2700, done=DONE), now_s)
            assert result.pull is not None
            self.assertGreaterEqual(result.pull.low, now_s)

    def test_a_look_that_no_likely_bake_shows_is_doubted_in_words(self) -> None:
        said = " ".join(told(look(60, 80.0, 30.0), 60).says)
        self.assertIn("A rim so dark at 1:00 is hard to believe", said)
        self.assertNotIn("base so", said)
        self.assertNotIn("hard to believe", " ".join(told(look(200, 72.0, 74.0), 200).says))

    def test_a_charred_base_at_half_a_minute_is_answered_all_the_same(self) -> None:
        result = told(Journal(launched_s=2700, seen=(Seen(at_s=30, base="charred"),)), 30)
        assert result.pull is not None
        self.assertTrue(30.0 <= result.pull.low <= result.pull.high < 2400.0)
