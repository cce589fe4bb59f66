"""A kitchen that gets to know itself: closed cases, what must not matter, and hidden kitchens that are found out."""

from __future__ import annotations

import math
import random
from functools import cache
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.simulate import quick_outcome
from mattone_engine.errors import first_input_error
from mattone_engine.heat.colour import colour_word
from mattone_engine.heat.outcome import target_of
from mattone_engine.heat.variation import Variation
from mattone_engine.knowledge.better import after_calibration
from mattone_engine.knowledge.truths import Z80
from mattone_engine.learn.kitchen import (
    FADES_DAYS,
    HEARTH_LN,
    HEARTH_PART_LN,
    ORDINARY_Z,
    PART_LN,
    RECORD_LN,
    RIG_LN,
    RIG_PART_LN,
    SURPRISES_Z,
    USUAL_NOISE,
    USUAL_SD,
    Kitchen,
    Logged,
    Measured,
    learned,
)
from mattone_engine.learn.lesson import CAUSES, PARTS, DeckReading, Lesson, LessonInput, SidesSeen, Sighting, UnevenReading, came_to_ln, lesson
from mattone_engine.learn.own_target import Scored, liked_words, own_target
from mattone_engine.learn.told import HearthFound, RigKnown, as_learned, known_of
from mattone_engine.learn.traits import trait_words, traits_of_hearth
from mattone_engine.live.ensemble import Truth
from mattone_engine.live.following import baked
from mattone_engine.live.journal import Reading, Seen
from mattone_engine.styles import style
from mattone_engine.things import Event, HearthLimits, SimulateInput
from mattone_engine.things.knowledge import GENERAL, ShareBelief
from pydantic import ValidationError
from test_live import ON_STEEL, ask

NOTHING = (0.0,) * len(CAUSES)
RIG = [("oven", "steel")]


def by(**causes: float) -> tuple[float, ...]:
    return tuple(causes.get(name, 0.0) for name in CAUSES)


def told(off_ln: float, noise_ln: float = 0.1, part: str = "base", of: tuple[float, ...] = NOTHING) -> Lesson:
    """A made-up lesson of one look."""
    seen = Sighting.model_validate({"part": part, "off_ln": off_ln, "noise_ln": noise_ln, "by": of})
    return Lesson(likely_s=400.0, pulled_s=400.0, shares=(1.0, 0.0, 0.0), pull_by=of, sightings=(seen,))


def logged(*lessons: Lesson, rig: str = "steel", every: float = 0.0, counts: bool | None = None) -> list[Logged]:
    return [Logged(f"{rig}{i}", "oven", rig, every * i, one, counts) for i, one in enumerate(lessons)]


@cache
def spec() -> SimulateInput:
    return bake_of(ask(), ON_STEEL)


class Closed(TestCase):
    def test_one_look_shrinks_as_the_formula_says(self) -> None:
        off, noise = 0.12, 0.1
        kitchen = learned(logged(told(off, noise)))
        pull = kitchen.pull_row(told(off), "oven", "steel")
        usual = HEARTH_LN**2 + HEARTH_PART_LN**2 + RIG_LN**2 + RIG_PART_LN**2
        error = USUAL_NOISE * (noise**2 + RECORD_LN**2 + PART_LN**2)
        self.assertAlmostEqual(float(pull @ kitchen.mean), off * usual / (usual + error), places=12)
        self.assertAlmostEqual(float(pull @ kitchen.cov @ pull), usual * error / (usual + error), places=12)

    def test_a_dough_that_browns_slowly_is_the_cooks_in_every_oven(self) -> None:
        of = by(browning=-1.0)
        kitchen = learned(logged(told(0.1, 0.02, of=of)), rigs=[("grill", "grate")])
        sd = USUAL_SD["browning"]
        rest = HEARTH_LN**2 + HEARTH_PART_LN**2 + RIG_LN**2 + RIG_PART_LN**2 + USUAL_NOISE * (RECORD_LN**2 + PART_LN**2 + 0.02**2)
        self.assertAlmostEqual(float(kitchen.mean[kitchen.at("cook", "browning")]), -0.1 * sd**2 / (sd**2 + rest), places=12)
        elsewhere = known_of(kitchen, "grill", "grate").knowledge.browning_ln
        self.assertLess(elsewhere.mean, -0.01)
        self.assertEqual(known_of(kitchen, "grill", "grate").hearth, HearthFound())

    def test_a_deck_reading_tells_of_the_dial_and_of_the_models_error(self) -> None:
        deck = DeckReading(off_k=-10.0, noise_k=0.01, by=by(dial_k=1.0))
        kitchen = learned([Logged("a", "oven", "steel", 0.0, told(0.0).model_copy(update={"sightings": (), "decks": (deck,)}))])
        dial, error = (float(kitchen.mean[kitchen.at("h:oven", name)]) for name in ("dial_k", "deck_k"))
        self.assertAlmostEqual(dial + error, -10.0, places=3)
        self.assertAlmostEqual(dial / error, (USUAL_SD["dial_k"] / 3.5) ** 2, places=6)

    def test_a_side_that_is_darker_tells_of_the_hearth_as_the_formula_says(self) -> None:
        off, noise, by_l, sd = 8.0, 3.0, 30.0, GENERAL.uneven.spread / Z80
        seen = told(0.0).model_copy(update={"sightings": (), "uneven": UnevenReading(off_l=off, noise_l=noise, by_l=by_l)})
        kitchen = learned([Logged("a", "oven", "steel", 0.0, seen)], rigs=[("oven", "stone"), ("grill", "grate")])
        share = by_l * sd**2 / (by_l**2 * sd**2 + noise**2)
        found = known_of(kitchen, "oven", "stone").knowledge.uneven
        self.assertAlmostEqual(found.mean, share * off, places=12)
        self.assertAlmostEqual(found.spread, Z80 * sd * math.sqrt(1.0 - share * by_l), places=12)
        self.assertEqual(known_of(kitchen, "grill", "grate").knowledge.uneven, GENERAL.uneven)
        text = next(one.text for one in traits_of_hearth(kitchen, "oven") if one.name == "uneven")
        self.assertEqual(text, "One side of it is almost certainly 11 % hotter than the average, give or take 9 %. Turn the pizza half-way.")
        for dial_k, how in ((-18.0, "almost certainly"), (-6.0, "probably"), (-4.0, "perhaps")):
            self.assertEqual(
                trait_words("dial_k", dial_k, 10.0),
                f"It {how} runs {{{-dial_k:.0f} K}} cooler than its dial says, give or take {{10 K}}. An oven thermometer on the rack would confirm it.",
            )
        self.assertEqual(trait_words("dial_k", 2.0, 10.0), "It runs about as hot as its dial says, give or take {10 K}.")
        # Even rims never make a side colder than cold.
        even = learned([Logged("a", "oven", "steel", 0.0, seen.model_copy(update={"uneven": UnevenReading(off_l=-9.0, noise_l=3.0, by_l=by_l)}))])
        self.assertEqual(known_of(even, "oven", "steel").knowledge.uneven.mean, 0.0)

    def test_untold_it_is_what_is_known_of_any_kitchen(self) -> None:
        for known in (GENERAL, after_calibration(2.0, 0.05)):
            found = known_of(learned([], rigs=RIG), "oven", "steel", known)
            self.assertEqual((found.hearth, found.bakes, found.hearth_bakes), (HearthFound(), 0, 0))
            self.assertAlmostEqual(found.narrower, 1.0)
            for name in type(known).model_fields:
                mine, usual = getattr(found.knowledge, name), getattr(known, name)
                self.assertEqual(getattr(mine, "mean", 0.0), getattr(usual, "mean", 0.0), name)
                self.assertAlmostEqual(getattr(mine, "spread", mine), getattr(usual, "spread", usual), msg=name)

    def test_a_measured_hearth_is_believed(self) -> None:
        deck = DeckReading(off_k=20.0, noise_k=5.0, by=by(dial_k=1.0))
        bare = [Logged("a", "oven", "steel", 0.0, told(0.0).model_copy(update={"sightings": (), "decks": (deck,)}))]
        dial = [float(found.mean[found.at("h:oven", "dial_k")]) for found in (learned(bare), learned(bare, measured=[Measured("oven", 1.5, 0.04)]))]
        self.assertGreater(dial[0], 8.0)
        self.assertLess(dial[1], 2.0)


class Sides(TestCase):
    def test_only_a_bake_that_was_not_turned_tells_which_side_is_hotter(self) -> None:
        bake = spec().model_copy(update={"events": ()})
        turned = bake.model_copy(update={"events": (Event(at_s=240.0, do="turn"),)})

        def told_by(one: SimulateInput, darker_l: float) -> UnevenReading | None:
            return lesson(LessonInput(bake=one, pulled_s=480.0, seen=(Seen(at_s=480.0, rim=60.0),), sides=SidesSeen(darker_l=darker_l))).uneven

        found = told_by(bake, 9.0)
        assert found is not None
        self.assertEqual(found.off_l, 9.0)
        self.assertGreater(found.by_l, 6.0)
        self.assertIsNone(told_by(turned, 9.0))
        self.assertIsNone(lesson(LessonInput(bake=bake, pulled_s=480.0, seen=(Seen(at_s=480.0, rim=60.0),))).uneven)

    def test_what_was_measured_weighs_more_than_what_was_seen(self) -> None:
        looks = [Seen(at_s=480.0, base=60.0), Seen(at_s=480.0, base=60.0, measured=("base",)), Seen(at_s=480.0, base="golden")]
        eye, photo, word = (lesson(LessonInput(bake=spec(), pulled_s=480.0, seen=(one,))).sightings[0].noise_ln for one in looks)
        self.assertLess(photo, 0.75 * eye)
        self.assertLess(eye, word)


class WhatMustNotMatter(TestCase):
    MANY = st.lists(st.tuples(st.floats(-0.4, 0.4), st.floats(0.03, 0.3), st.sampled_from(["steel", "stone"]), st.integers(0, 400)), min_size=1, max_size=9)

    @staticmethod
    def log(rows: list[tuple[float, float, str, int]]) -> list[Logged]:
        return [Logged(str(i), "oven", rig, float(day), told(off, noise, of=by(dial_k=-0.01, browning=-0.6))) for i, (off, noise, rig, day) in enumerate(rows)]

    def same(self, one: Kitchen, other: Kitchen) -> None:
        np.testing.assert_allclose(one.mean, other.mean, atol=1e-10)
        np.testing.assert_allclose(one.cov, other.cov, atol=1e-10)

    @given(rows=MANY, seed=st.integers(0, 99))
    @settings(max_examples=40)
    def test_the_order_in_which_it_is_told(self, rows: list[tuple[float, float, str, int]], seed: int) -> None:
        log = self.log(rows)
        shuffled = log[:]
        random.Random(seed).shuffle(shuffled)
        self.same(learned(log), learned(shuffled))

    @given(rows=MANY, out=st.integers(0, 8))
    @settings(max_examples=40)
    def test_a_bake_left_out_was_never_in(self, rows: list[tuple[float, float, str, int]], out: int) -> None:
        log = self.log(rows)
        gone = log[out % len(log)]
        without = [one if one is not gone else Logged(one.key, one.hearth, one.rig, one.day, one.lesson, counts=False) for one in log]
        rest = [one for one in log if one is not gone]
        rigs = [("oven", "steel"), ("oven", "stone")]
        self.same(learned(without, rigs=rigs, today=500.0), learned(rest, rigs=rigs, today=500.0))

    @given(rows=MANY)
    @settings(max_examples=40)
    def test_what_is_known_is_a_covariance_and_never_worse_than_usual(self, rows: list[tuple[float, float, str, int]]) -> None:
        kitchen = learned(self.log(rows))
        np.testing.assert_allclose(kitchen.cov, kitchen.cov.T, atol=1e-12)
        self.assertGreater(float(np.linalg.eigvalsh(kitchen.cov).min()), -1e-12)
        self.assertTrue((np.diag(kitchen.cov) <= kitchen.usual_var + 1e-9).all())
        for rig in {rig for _, _, rig, _ in rows}:
            known = known_of(kitchen, "oven", rig)
            self.assertLessEqual(known.narrower, 1.0 + 1e-9)
            self.assertLessEqual(known.knowledge.dial_k.spread, GENERAL.dial_k.spread + 1e-9)

    def test_old_bakes_fade_to_what_is_usual(self) -> None:
        log = logged(*[told(0.15, 0.05)] * 4)
        fresh, old, gone = (learned(log, today=day) for day in (0.0, FADES_DAYS, 60.0 * FADES_DAYS))
        pull = fresh.pull_row(log[0].lesson, "oven", "steel")
        self.assertAlmostEqual(float(pull @ old.mean), float(pull @ fresh.mean) / math.e, places=9)
        np.testing.assert_allclose(gone.mean, 0.0, atol=1e-9)
        np.testing.assert_allclose(gone.cov, np.diag(gone.usual_var), atol=1e-9)


class Surprises(TestCase):
    def test_it_is_asked_about_and_counts_once_its_cook_says_so(self) -> None:
        right = [told(0.02, 0.05)] * 4
        wrong = told(math.log(2.0), 0.05)
        log = logged(*right, wrong, every=7.0)
        held, never = learned(log), learned(log[:-1], today=28.0)
        foretold = held.foretold["steel4"]
        self.assertGreater(foretold.z, 2.33)
        self.assertEqual(foretold.counted, 0.0)
        np.testing.assert_allclose(held.mean, never.mean, atol=1e-12)
        said = [Logged(one.key, one.hearth, one.rig, one.day, one.lesson, counts=True if one.lesson is wrong else None) for one in log]
        pull = held.pull_row(wrong, "oven", "steel")
        self.assertGreater(float(pull @ learned(said).mean), float(pull @ held.mean) + 0.03)

    @given(off=st.floats(-1.0, 1.0), before=st.integers(0, 6), noise=st.floats(0.03, 0.3))
    @settings(max_examples=60)
    def test_an_ordinary_bake_counts_in_full_and_one_that_surprises_moves_nothing(self, off: float, before: int, noise: float) -> None:
        log = logged(*[told(0.05, 0.08)] * before, told(off, noise), every=1.0)
        without, whole = learned(log[:-1], rigs=RIG, today=float(before)), learned(log)
        pull = whole.pull_row(log[-1].lesson, "oven", "steel")
        moved, foretold = abs(float(pull @ (whole.mean - without.mean))), whole.foretold[log[-1].key]
        if abs(foretold.z) <= ORDINARY_Z:
            self.assertEqual(foretold.counted, 1.0)
        elif abs(foretold.z) > SURPRISES_Z:
            self.assertEqual((foretold.counted, moved < 1e-12), (0.0, True))
        else:
            self.assertTrue(0.0 < foretold.counted <= 1.0)

    def test_a_careless_cooks_bakes_teach_less(self) -> None:
        """The same mean of ten records, all alike or scattered by a fifth of the minutes."""
        alike, scattered = (logged(*[told(0.05 + sign * by_ln, 0.05) for sign in (1, -1) * 5], every=1.0) for by_ln in (0.0, 0.22))
        careful, careless = learned(alike), learned(scattered)
        self.assertLess(careful.noise, 1.0)
        self.assertGreater(careless.noise, 2.0)
        pull = careful.pull_row(alike[0].lesson, "oven", "steel")
        self.assertGreater(float(pull @ careless.cov @ pull), 1.5 * float(pull @ careful.cov @ pull))
        widths = [known_of(one, "oven", "steel").knowledge.model_ln.spread for one in (careful, careless)]
        self.assertGreater(widths[1], widths[0])

    @given(off=st.floats(-0.3, 0.3), by_browning=st.floats(-0.8, 0.0), by_loading=st.floats(0.1, 0.6))
    def test_what_was_learned_is_carried_whatever_limits_the_pull(self, off: float, by_browning: float, by_loading: float) -> None:
        """In a flame or with a late cheese browning hardly moves the pull: the shift used to be dropped, while the window narrowed."""
        of = by(browning=by_browning, loading=by_loading)
        log = logged(*[told(off, 0.05, of=of)] * 3)
        kitchen = learned(log)
        found = known_of(kitchen, "oven", "steel").knowledge
        model = float(kitchen.pull_row(log[0].lesson, "oven", "steel") @ kitchen.mean)
        carried = by_browning * found.browning_ln.mean + by_loading * found.loading_ln.mean
        if abs(found.browning_ln.mean) < 0.9 and abs(found.loading_ln.mean) < 0.5:
            self.assertAlmostEqual(carried, model, places=9)

    def test_photos_tell_what_a_cooks_eye_reads_wrong(self) -> None:
        """The photo says that it was right; the eye that it was 6 L* darker than that, on a crust that darkens 40 L* for each e-fold."""
        eye = [Sighting(part=part, off_ln=-6.0 / 40.0, noise_ln=0.05, by=(0.0,) * 7, by_eye=1.0 / 40.0) for part in PARTS]
        photo = [Sighting(part=part, off_ln=0.0, noise_ln=0.03, by=(0.0,) * 7) for part in PARTS]
        log = [told(0.0).model_copy(update={"sightings": tuple(seen)}) for seen in (photo, eye) * 4]
        found = known_of(learned(logged(*log, every=1.0)), "oven", "steel").knowledge.eye_l
        self.assertTrue(-6.5 < found.mean < -3.0, found)
        self.assertLess(found.spread, 0.75 * GENERAL.eye_l.spread)
        self.assertEqual(known_of(learned(logged(*log[:1])), "oven", "steel").knowledge.eye_l.mean, 0.0, "a photo alone tells of no eye")

    def test_a_deck_far_off_does_not_hold_the_looks_up(self) -> None:
        odd = told(0.05).model_copy(update={"decks": (DeckReading(off_k=-180.0, noise_k=7.0, by=by(dial_k=0.9)),)})
        kitchen = learned(logged(odd))
        self.assertLess(kitchen.foretold["steel0"].deck_z, -2.33)
        self.assertEqual(kitchen.foretold["steel0"].counted, 1.0)
        self.assertEqual(float(kitchen.mean[kitchen.at("h:oven", "dial_k")]), 0.0)


class Lessons(TestCase):
    def hidden(self, **off: float) -> tuple[Lesson, dict[str, float]]:
        """A bake of an oven that is otherwise than told, logged without an eye's error."""
        truth = Variation(**{name: value if name == "dial_k" else math.exp(value) for name, value in off.items()})
        found = baked(spec(), target_of(spec()), Truth(truth, None))  # type: ignore[arg-type]
        at_s = found.done.t_s
        look = Seen(at_s=at_s, **{part: float(np.interp(at_s, found.result.t_s, getattr(found.result, f"{part}_l"))) for part in ("base", "rim", "cheese")})
        return lesson(LessonInput(bake=spec(), pulled_s=at_s, seen=(look,))), off

    def test_what_is_off_is_what_its_causes_add(self) -> None:
        """Linear as it is taken, it holds within a fifth for what a kitchen may well be off by."""
        for off in ({"dial_k": -12.0}, {"browning": 0.15}, {"loading": 0.1}, {"dial_k": 8.0, "browning": -0.1}):
            found, causes = self.hidden(**off)
            self.assertEqual([one.part for one in found.sightings], ["base", "rim", "cheese"])
            for one in found.sightings:
                expected = sum(value * of for name, of in zip(CAUSES, one.by, strict=True) if (value := causes.get(name, 0.0)))
                self.assertAlmostEqual(one.off_ln, expected, delta=0.015 + 0.2 * abs(expected), msg=f"{off} {one.part}")

    def test_as_told_it_is_nowhere_off(self) -> None:
        found, _ = self.hidden()
        self.assertTrue(all(abs(one.off_ln) < 0.004 for one in found.sightings))
        self.assertAlmostEqual(sum(found.shares), 1.0, places=6)
        self.assertLess(found.pull_by[list(CAUSES).index("browning")], -0.05)

    def test_a_word_tells_less_than_a_swatch_and_a_pale_crust_no_moment(self) -> None:
        at = {"at_s": 300.0}
        swatch, word, pale = (
            lesson(LessonInput(bake=spec(), pulled_s=300.0, seen=(Seen.model_validate(at | seen),)))
            for seen in ({"base": 57.0}, {"base": "golden-brown"}, {"base": 84.0})
        )
        self.assertGreater(word.sightings[0].noise_ln, swatch.sightings[0].noise_ln)
        self.assertEqual(pale.sightings, ())

    def test_darker_than_was_ever_drawn_is_guessed_not_lost(self) -> None:
        found = baked(spec(), target_of(spec()), Truth(Variation(), None))  # type: ignore[arg-type]
        beyond = came_to_ln(found.result, "cheese", 20.0)
        self.assertTrue(math.log(found.result.t_s[-1]) < beyond < math.log(found.result.t_s[-1]) + 1.3)

    def test_a_deck_is_read_against_its_own_heating(self) -> None:
        found = lesson(LessonInput(bake=spec(), pulled_s=300.0, readings=(Reading(since_heat_s=1500.0, deck_c=150.0),)))
        self.assertEqual(len(found.decks), 1)
        self.assertLess(found.decks[0].off_k, -10.0)
        self.assertGreater(found.decks[0].by[0], 0.2)

    def test_a_look_later_than_the_pull_is_refused_in_words(self) -> None:
        with self.assertRaises(ValidationError) as refused:
            LessonInput(bake=spec(), pulled_s=200.0, seen=(Seen(at_s=260.0, base="golden"),))
        self.assertIn("later than its pull", first_input_error(refused.exception).message)


class Means(TestCase):
    def test_what_was_learned_is_what_is_baked_with(self) -> None:
        target = target_of(spec())
        usual, _ = quick_outcome(spec(), target)
        slow = spec().model_copy(update={"knowledge": GENERAL.model_copy(update={"browning_ln": ShareBelief(mean=-0.2, spread=0.1)})})
        told_slow, _ = quick_outcome(slow, target)
        really, _ = quick_outcome(spec(), target, variation=Variation(browning=math.exp(-0.2)))
        self.assertEqual(told_slow.t_s, really.t_s)
        self.assertGreater(told_slow.t_s, 1.03 * usual.t_s)

    def test_a_hearth_stays_one(self) -> None:
        known = RigKnown(HearthFound(dial_k=-30.0, power=0.2, top_element=1.5), GENERAL, 0, 0, 1.0)
        found, _ = as_learned(HearthLimits(dial_error_k=-50.0, top_element_kw=3.8), known)
        self.assertEqual((found.dial_error_k, found.top_element_kw), (-60.0, 4.0))
        HearthLimits.model_validate(dict(found))
        flame = HearthLimits(kind="flame_oven", max_setpoint_c=450.0)
        self.assertEqual(as_learned(flame, known)[0].dial_error_k, 0.0)
        self.assertEqual(as_learned(flame, known)[1].dial_k.mean, -30.0)


class Liked(TestCase):
    @given(off=st.floats(-14.0, 14.0), count=st.integers(0, 12))
    @settings(max_examples=40)
    def test_what_is_scored_high_is_offered_as_a_word_once_it_is_sure(self, off: float, count: int) -> None:
        round_style = style("home_oven_round")
        likes = own_target([Scored(score=9, base_off_l=off, rim_off_l=None)] * count)
        found = liked_words(round_style, likes)
        self.assertIsNone(found.rim, "nothing was told of the rim")
        if count < 2:
            self.assertIsNone(found.base)
            return
        # Shrunk to the style, never beyond what was scored; it is given to a tenth.
        self.assertTrue(all(abs(one.likely) <= abs(off) + 0.05 for one in likes))
        if found.base is not None:
            self.assertEqual(found.base, colour_word(round_style.target.base + likes[0].likely))
            self.assertNotEqual(found.base, colour_word(round_style.target.base))
        if count >= 8 and abs(off) > 12.0:
            self.assertIsNotNone(found.base)


class Row(TestCase):
    @staticmethod
    def of(earlier: list[tuple[float, float]], launched_s: float) -> Lesson:
        bake = spec().model_copy(update={"events": (), "preheat_min": launched_s / 60.0})
        before = [{"launched_s": launched, "pulled_s": pulled} for launched, pulled in earlier]
        return lesson(
            LessonInput.model_validate({"bake": bake, "pulled_s": 480.0, "seen": [{"at_s": 480.0, "base": 60.0}], "earlier": before, "launched_s": launched_s})
        )

    def test_a_deck_that_had_time_is_as_if_nothing_had_been_on_it(self) -> None:
        alone, long_after = self.of([], 9000.0), self.of([(2400.0, 2880.0)], 9000.0)
        self.assertAlmostEqual(long_after.likely_s / alone.likely_s, 1.0, delta=0.01)
        at_once = self.of([(8400.0, 8900.0)], 9000.0)
        self.assertGreater(at_once.likely_s, 1.02 * alone.likely_s)
        # And the more were in before it, the cooler it is.
        third = self.of([(7800.0, 8300.0), (8400.0, 8900.0)], 9000.0)
        self.assertGreaterEqual(third.likely_s, at_once.likely_s)
        self.assertGreater(at_once.sightings[0].noise_ln, alone.sightings[0].noise_ln)

    def test_moments_out_of_order_are_told(self) -> None:
        for earlier, launched_s in ([(3000.0, 2900.0)], 4000.0), ([(3000.0, 3500.0)], 3400.0), ([(3000.0, 3500.0), (3200.0, 3600.0)], 4000.0):
            with self.assertRaisesRegex(ValidationError, "launched after the one before"):
                self.of(earlier, launched_s)
