"""What Bake offers, asks and names as wrong: only what a cook could see, and what the looks and readings show."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.evidence.live_studies import evenings, lit_evenings
from mattone_engine.evidence.outside_study import OUTSIDE, one_evening
from mattone_engine.heat.outcome import Series
from mattone_engine.live.ensemble import DONE, DOUGH_FAULT, HEARTH_FAULT, PLACED, SMOOTH, Truth, allotted, first_places, first_weights, shaken, truth_of
from mattone_engine.live.faults import faults
from mattone_engine.live.following import Interval, follow
from mattone_engine.live.happened import as_if_done, as_it_was
from mattone_engine.live.journal import Journal, LiveInput, Reading, Seen, Sign
from mattone_engine.live.night import Night, baking, untold_of
from mattone_engine.live.offers import COOLER, HOTTER, Moment, conflicts, offered
from mattone_engine.live.possible import Possible
from mattone_engine.live.sightings import bias_of, looks_by_bias, looks_ln
from mattone_engine.live.weighing import GO_ON, PULL_NOW, Onwards, Weighed
from mattone_engine.things import Event
from mattone_engine.things.knowledge import GENERAL, Belief
from test_live import DONE as ELEMENT_DONE
from test_live import LAUNCHED, ON_STEEL, ask, at_launch, look, told

WINDOW = Interval(240.0, 300.0, 380.0)
MOMENT = Moment(200.0, WINDOW, 300.0, 0.0, ())


def bakes(pull_s: float, base_l: float, off_l: float, count: int = 15) -> list[Onwards]:
    return [Onwards(pull_s, base_l, 60.0, 75.0, 10.0, off_l, True)] * count


def weighed(key: str, gain_l: float, *, further: float = 0.0, pull_s: float = 300.0, base_l: float = 60.0, gives: tuple[Event, ...] = ()) -> Weighed:
    return Weighed(Possible(key, gives), bakes(pull_s, base_l, 8.0 - gain_l), gain_l, further)


GOING_ON = Weighed(GO_ON, bakes(300.0, 60.0, 8.0), 0.0)
PULLING = Weighed(PULL_NOW, bakes(200.0, 75.0, 14.0), -6.0, 1.0)


def keys(*others: Weighed, moment: Moment = MOMENT) -> list[str]:
    return [one.action.key for one in offered([*sorted([GOING_ON, *others], key=lambda one: -one.gain_l), PULLING], moment)]


class WhatIsOffered(TestCase):
    def test_only_what_can_be_seen_and_hardly_harms(self) -> None:
        self.assertEqual(keys(weighed("shield", 1.6)), ["shield", "go_on"])
        self.assertEqual(keys(weighed("shield", 1.4)), ["go_on"])
        self.assertEqual(keys(weighed("shield", 0.8, base_l=70.0)), ["shield", "go_on"], "a word changes")
        self.assertEqual(keys(weighed("shield", 0.3, base_l=70.0)), ["go_on"])
        self.assertEqual(keys(weighed("shield", 3.0, further=2 / 15)), ["go_on"])

    def test_a_cool_oven_is_not_turned_down_and_more_heat_is_never_later(self) -> None:
        for key in COOLER:
            self.assertEqual(keys(weighed(key, 4.0), moment=replace(MOMENT, cavity_k=-15.0)), ["go_on"])
            self.assertEqual(keys(weighed(key, 4.0)), [key, "go_on"])
        for key in HOTTER:
            self.assertEqual(keys(weighed(key, 4.0, pull_s=320.0)), ["go_on"])
            self.assertEqual(keys(weighed(key, 4.0, pull_s=280.0)), [key, "go_on"])

    def test_nothing_in_the_first_third_of_a_bake_that_goes_to_plan(self) -> None:
        early = replace(MOMENT, now_s=95.0)
        self.assertEqual(keys(weighed("shield", 4.0), moment=early), ["go_on"])
        self.assertEqual(keys(weighed("shield", 4.0), moment=replace(early, planned_s=200.0)), ["shield", "go_on"], "it does not go to plan")
        self.assertEqual(keys(weighed("turn", 0.0), moment=replace(early, uneven=True)), ["turn", "go_on"])

    def test_after_the_latest_the_pull_alone(self) -> None:
        self.assertEqual(keys(weighed("shield", 4.0), moment=replace(MOMENT, now_s=381.0)), ["pull_now"])

    def test_a_step_that_is_due_is_not_contradicted(self) -> None:
        on = Event(at_s=200.0, do="top_element_on")
        for due, expected in (("top_element_off", True), ("top_element_on", True), ("turn", False)):
            moment = replace(MOMENT, coming=(Event.model_validate({"at_s": 230.0, "do": due}),))
            self.assertEqual(conflicts(weighed("element_on", 4.0, gives=(on,)), moment), expected)
        later = replace(MOMENT, coming=(Event(at_s=290.0, do="top_element_off"),))
        self.assertFalse(conflicts(weighed("element_on", 4.0, gives=(on,)), later))

    @settings(max_examples=200)
    @given(st.lists(st.tuples(st.sampled_from([*COOLER, *HOTTER, "shield", "lift"]), st.floats(-8, 8), st.floats(0, 1), st.floats(150, 500)), max_size=6),
           st.floats(1, 500), st.floats(-40, 40), st.floats(150, 500))  # fmt: skip
    def test_whatever_is_weighed_going_on_is_there_until_the_latest_and_harm_is_not(
        self, drawn: list[tuple[str, float, float, float]], now_s: float, cavity_k: float, planned_s: float
    ) -> None:
        moment = Moment(now_s, WINDOW, planned_s, cavity_k, ())
        every = [weighed(key, gain, further=further, pull_s=pull) for key, gain, further, pull in drawn]
        found = offered([*sorted([GOING_ON, *every], key=lambda one: -one.gain_l), PULLING], moment)
        self.assertEqual(found[-1].action is PULL_NOW, now_s > WINDOW.high)
        for one in found[:-1]:
            self.assertTrue(one.gain_l >= 0.5 and one.further < 0.1)
            self.assertFalse(one.action.key in COOLER and cavity_k <= -6.0)


class WhatIsAsked(TestCase):
    def test_a_step_that_nobody_confirmed_is_asked_about_until_it_is(self) -> None:
        self.assertEqual(told(LAUNCHED, 10.0).asks, [], "hands are busy with it")
        asks = told(LAUNCHED, 50.0).asks
        self.assertEqual([(one.text, one.gives.at_s) for one in asks], [("Is the top element on?", 0.0)])
        confirmed = LAUNCHED.model_copy(update={"done": (asks[0].gives,)})
        self.assertEqual(told(confirmed, 50.0).asks, [])

    def test_both_are_considered_and_a_look_tells_which(self) -> None:
        """With the element on for a minute the rim is darker: a dark rim says that it was on, a pale one that it was not."""

        def was_on(rim_l: float) -> float:
            journal = look(90, 82.0, rim_l).model_copy(update={"done": ()})
            request = LiveInput(plan=ask(), controls=ON_STEEL, journal=journal, now_s=90.0, seed=3)
            spec, if_done, night = as_it_was(request), as_if_done(request), Night(first_places(3))
            assert if_done is not None
            first = untold_of(spec, GENERAL, night, 2700.0, (), 3, if_done)
            now = follow(spec, GENERAL, journal, 3, first=first, bake=baking(spec, night, 2700.0, if_done))
            return float(now.weights @ np.array([one.truth.did_overdue for one in now.told]))

        self.assertGreater(was_on(72.0), 0.6)
        self.assertLess(was_on(88.0), 0.5)

    def test_past_the_latest_it_says_so_and_nothing_else(self) -> None:
        late = told(look(300, 60.0, 50.0), 900)
        self.assertEqual(late.says, ["Take it out now: this is past the latest."])
        self.assertEqual([(one.key, one.label) for one in late.actions], [("pull_now", "Take it out now")])
        self.assertEqual((late.asks, late.coming), ([], []))

    def test_base_and_rim_are_told_as_they_are_now(self) -> None:
        """The rim is dark already, though the base will be right first: what is told is what can be seen."""
        self.assertIn("The rim is far ahead of the base so far.", told(look(200, 78.0, 60.0), 200).says)

    def test_a_reading_in_the_other_unit_is_asked_about_and_not_used(self) -> None:
        right = Reading(since_heat_s=2000, deck_c=225)
        for wrong in (Reading(since_heat_s=2000, deck_c=437), Reading(since_heat_s=2600, deck_c=118)):
            found = told(Journal(readings=(wrong,)), 2650.0)
            self.assertIn("In the other unit", " ".join(found.says))
            assert found.launch is not None
            without = told(Journal(), 2650.0).launch
            assert without is not None
            self.assertEqual(found.launch.deck_now_c, without.deck_now_c)
        self.assertNotIn("other unit", " ".join(told(Journal(readings=(right,)), 2650.0).says))
        twice = Journal(readings=(Reading(since_heat_s=2400, deck_c=118), Reading(since_heat_s=2600, deck_c=121)))
        cold = told(twice, 2650.0)
        assert cold.launch is not None
        planned = told(Journal(), 2650.0).launch
        assert planned is not None
        self.assertLess(cold.launch.deck_now_c, planned.deck_now_c - 30.0, "read twice it is believed")

    def test_looks_that_contradict_each_other_are_answered(self) -> None:
        seen = (Seen(at_s=150, base=84.0, rim=84.0), Seen(at_s=155, base=40.0, rim=36.0), Seen(at_s=160, base="pale", rim="charred"))
        found = told(Journal(launched_s=2700, done=ELEMENT_DONE, seen=seen), 161)
        assert found.pull is not None
        self.assertTrue(161.0 <= found.pull.low <= found.pull.likely <= found.pull.high)
        self.assertIn("hard to believe", " ".join(found.says))


@cache
def a_bake() -> Series:
    """One of the bakes that an evening may be."""
    evening = evenings()[0]
    return evening.at_launch(Journal(launched_s=60.0 * evening.spec.preheat_min), 0).told[0].result


class TheEye(TestCase):
    def test_a_photo_has_no_bias_and_an_eye_has_one(self) -> None:
        biases = np.linspace(-9.0, 9.0, 7)
        photo = looks_by_bias((Seen(at_s=200, base=70.0, measured=("base",)),), [a_bake()], biases)
        self.assertEqual(float(np.ptp(photo)), 0.0)
        self.assertGreater(float(np.ptp(looks_by_bias((Seen(at_s=200, base=70.0),), [a_bake()], biases))), 1.0)

    @given(st.floats(20, 400), st.floats(30, 90), st.floats(-12, 12), st.floats(0.5, 8))
    def test_what_an_eye_may_be_sums_to_one_and_more_looks_narrow_it(self, at_s: float, l_star: float, mean: float, spread: float) -> None:
        eye = Belief(mean=mean, spread=spread)
        biases, (once,) = bias_of((Seen(at_s=at_s, base=l_star),), [a_bake()], eye)
        self.assertAlmostEqual(float(once.sum()), 1.0, places=9)
        self.assertTrue(np.isfinite(looks_ln((Seen(at_s=at_s, base=l_star),), [a_bake()], eye)[0]))
        self.assertTrue((np.diff(biases) > 0.0).all())

    def test_a_cook_who_reads_too_dark_is_told_a_later_pull_for_the_same_looks(self) -> None:
        usual = told(look(200, 66.0, 66.0), 200)
        dark = told(look(200, 66.0, 66.0), 200, plan=ask(knowledge=GENERAL.model_copy(update={"eye_l": Belief(mean=-7.0, spread=2.0)})))
        assert usual.pull is not None and dark.pull is not None
        self.assertGreater(dark.pull.likely, 1.04 * usual.pull.likely)


class Faults(TestCase):
    def test_first_draws_weigh_their_shares(self) -> None:
        places = first_places(4)
        weights = first_weights(places)
        for number, fault in enumerate(faults(), start=1):
            mine = np.maximum(places[:, HEARTH_FAULT], places[:, DOUGH_FAULT]) == number
            self.assertEqual(int(mine.sum()), fault.draws)
            self.assertAlmostEqual(float(weights[mine].sum()), fault.share, places=6)
        self.assertAlmostEqual(float(places[:, DONE].mean()), 0.5, places=6)

    def test_a_fault_lies_between_its_limits_and_stays_when_shaken(self) -> None:
        places, rng = first_places(5), np.random.default_rng(1)
        again = shaken(places, first_weights(places), rng, 200)
        for fault, place in [(int(max(place[HEARTH_FAULT], place[DOUGH_FAULT])), place) for place in again]:
            if fault:
                one, plain = faults()[fault - 1], place.copy()
                plain[[HEARTH_FAULT, DOUGH_FAULT]] = 0.0
                with_it, without = (getattr(truth_of(GENERAL, at).variation, one.about) for at in (place, plain))
                size = with_it - without if one.about == "dial_k" else with_it / without
                self.assertTrue(one.low - 1e-9 <= size <= one.high + 1e-9, (one.key, size))
        self.assertEqual(set(np.unique(again[:, HEARTH_FAULT])) - {0.0, *range(1, len(faults()) + 1)}, set())
        self.assertEqual(again.shape[1], PLACED)
        self.assertGreater(PLACED, SMOOTH)

    @given(st.lists(st.floats(0.0, 1.0), min_size=1, max_size=7).filter(lambda masses: sum(masses) > 0.01))
    def test_draws_are_allotted_whole(self, raw: list[float]) -> None:
        masses = np.array(raw) / sum(raw)
        found = allotted(masses, 256, 6)
        self.assertEqual(int(found.sum()), 256)
        self.assertTrue(((found >= 6) == (masses > 0.0)).all())

    def test_what_is_wrong_is_named_first_or_second(self) -> None:
        """One evening of each kind, the truth as planned but for this; the evidence page has many, drawn."""
        usual = truth_of(GENERAL, np.zeros(PLACED))
        for wrong, key in OUTSIDE.items():
            evening = lit_evenings()[0] if key == "element" else evenings()[0]
            found = one_evening(evening, wrong, Truth(usual.variation, usual.values), 3)
            with self.subTest(wrong):
                self.assertTrue(key in found.named[:2] or not found.matters, found.named)

    def test_a_cold_oven_is_said_with_what_would_confirm_it(self) -> None:
        heated = told(Journal(), 2650.0).launch
        assert heated is not None
        readings = tuple(Reading(since_heat_s=t, deck_c=float(np.interp(t / 60.0, heated.expected.minutes, heated.expected.deck_c)) - off, by="probe")
                         for t, off in ((1000.0, 12.0), (2690.0, 38.0)))  # fmt: skip
        journal = Journal(
            launched_s=2700, done=ELEMENT_DONE, readings=readings, seen=(Seen(at_s=200, base=80.0, rim=82.0), Seen(at_s=260, base=76.0, rim=78.0))
        )
        says = " ".join(told(journal, 261).says)
        self.assertIn("colder at launch than the planned", says)
        self.assertIn("The oven", says)
        self.assertIn("oven thermometer", says)

    def test_with_nothing_wrong_nothing_is_named(self) -> None:
        """The crust as expected at every look: no suspect is put forward for the sake of having one."""
        course = at_launch().course
        assert course is not None
        seen = tuple(
            Seen(at_s=t, base=float(np.interp(t, course.t_s, course.base_l)), rim=float(np.interp(t, course.t_s, course.rim_l))) for t in (120.0, 200.0)
        )
        says = told(Journal(launched_s=2700, done=ELEMENT_DONE, seen=seen), 201).says
        self.assertEqual(len(says), 2, says)

    def test_one_side_darker_is_answered_at_any_time(self) -> None:
        journal = LAUNCHED.model_copy(update={"done": ELEMENT_DONE, "signs": (Sign(at_s=70, kind="one_side_darker"),)})
        self.assertIn("turn", [one.key for one in told(journal, 70).actions])
