"""Judging a bake: on made-up series, where the right answer is known."""

import math
from dataclasses import replace
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from mattone_engine.heat.outcome import (
    BURNT_BASE_L,
    BURNT_CHEESE_L,
    BURNT_RIM_L,
    CRISP_MM,
    CRUMB_WORDS,
    LIMP_MM,
    NO_PULL,
    TOO_DARK_L,
    Series,
    TargetCrust,
    bite_word,
    crumb_word,
    first_there,
    likely_done,
    value_at,
    wanted,
)
from mattone_engine.styles import styles
from mattone_engine.things import Target

T = np.arange(0.0, 900.0, 3.0)


def made_up(base_s: float = 300.0, rim_s: float = 300.0, core_s: float = 120.0, cheese_s: float = 900.0, sauce_s: float = 0.0) -> Series:
    """Colours falling in straight lines from 84, each through 60 at its time, cheese to 61; a core that sets at once."""

    def falling(s: float) -> np.ndarray:
        return np.maximum(5.0, 84.0 - 24.0 * T / s)

    flat = np.full(T.size, 100.0)
    return Series(
        t_s=T, deck_c=flat, air_c=flat, base_c=flat, rim_c=flat, base_l=falling(base_s), rim_l=falling(rim_s),
        hot_rim_l=falling(rim_s), cheese_l=np.maximum(61.0, falling(cheese_s)), top_c=flat, sauce_c=np.where(sauce_s <= T, 99.0, 50.0),
        half_cheese_l=falling(cheese_s)[None, :],
        half_wet_kg_m2=flat[None, :],
        core_c=np.where(core_s <= T, 99.0, 40.0), loss_pct=T / 40.0, dry_mm=T / 300.0, wet_kg_m2=flat, spot_pct=flat,
    )  # fmt: skip


def target(**changes: float) -> TargetCrust:
    given = {"base": 60.0, "rim": 60.0, "cheese": 60.0, "core_c": 93.0, "loss_pct": 12.0, "weight_base": 1.0, "weight_rim": 1.0, "weight_cheese": 0.0}
    return TargetCrust(**(given | changes))


class AtOneMoment(TestCase):
    @given(st.lists(st.floats(-1e3, 1e3), min_size=2, max_size=12), st.floats(-2.0, 14.0), st.integers(0, 1000))
    def test_it_is_what_numpy_interpolates(self, values: list[float], at_s: float, seed: int) -> None:
        t_s = np.cumsum(np.random.default_rng(seed).uniform(1e-3, 2.0, len(values)))
        for moment in (at_s, float(t_s[0]), float(t_s[-1])):
            self.assertAlmostEqual(value_at(t_s, np.array(values), moment), float(np.interp(moment, t_s, values)), places=6)


class LikelyDone(TestCase):
    def test_both_there_together_is_done_there(self) -> None:
        done = likely_done(made_up(300, 300), target())
        self.assertAlmostEqual(done.t_s, 300, delta=3)
        self.assertAlmostEqual(done.distance, 0.0, delta=0.01)

    @given(st.floats(150, 600), st.floats(150, 600))
    def test_done_lies_between_base_and_rim(self, base_s: float, rim_s: float) -> None:
        done = likely_done(made_up(base_s, rim_s), target())
        if done.limited_by != "core":
            self.assertGreaterEqual(done.t_s, min(base_s, rim_s) - 6)
            self.assertLessEqual(done.t_s, max(base_s, rim_s) + 6)

    @given(st.floats(100, 700), st.floats(100, 700), st.floats(0, 1200), st.floats(0, 1200))
    def test_a_pull_is_baked_through_and_unburnt_and_else_there_is_none(self, base_s: float, rim_s: float, core_s: float, sauce_s: float) -> None:
        result = made_up(base_s, rim_s, core_s, sauce_s=sauce_s)
        done = likely_done(result, target(weight_cheese=0.3))
        burnt = (result.base_l < BURNT_BASE_L) | (result.rim_l < BURNT_RIM_L) | (result.cheese_l < BURNT_CHEESE_L)
        hot = (result.core_c >= 93.0) & (result.sauce_c >= 80.0)
        before = np.arange(T.size) < (int(np.argmax(burnt)) if burnt.any() else T.size)
        if done.is_pull:
            self.assertTrue(hot[done.index] and before[done.index] and done.index < T.size - 1)
        elif (hot & before).any():
            # Its colours were still coming nearer when the series ended.
            self.assertEqual((done.limited_by, done.index), ("not done", T.size - 1))
        else:
            self.assertEqual(done.limited_by, "raw" if burnt.any() else "not done")
            self.assertEqual(done.index, int(np.flatnonzero(before)[-1]))
            self.assertGreaterEqual(done.distance, 4.0)
        self.assertIn(done.limited_by, ("base", "rim", "cheese", "core", *NO_PULL))

    def test_a_late_core_holds_the_pull(self) -> None:
        done = likely_done(made_up(240, 240, core_s=390), target())
        self.assertEqual((done.limited_by, done.is_pull), ("core", True))
        self.assertTrue(387.0 < done.t_s <= 390.0, "between the record before and that which is hot")

    @given(st.floats(91.0, 94.9), st.integers(20, 200))
    def test_when_a_core_is_hot_does_not_wait_for_a_record(self, need: float, at: int) -> None:
        """A core that climbs in a straight line is set where it crosses, not where it was next written down."""
        climbing = 20.0 + 80.0 * T / T[at]
        result = replace(made_up(600, 600), core_c=climbing)
        exact = (need - 20.0) * T[at] / 80.0
        done = likely_done(result, target(core_c=need, base=80.0, rim=80.0, weight_cheese=0.0))
        if done.limited_by == "core":
            self.assertAlmostEqual(done.t_s, exact, delta=0.06)

    def test_a_topping_that_is_cold_below_holds_the_pull(self) -> None:
        """160 g and 600 g on a stone used to bake alike."""
        self.assertLess(likely_done(made_up(240, 240), target()).t_s, 250.0)
        self.assertTrue(387.0 < likely_done(made_up(240, 240, sauce_s=390), target()).t_s <= 390.0)

    def test_burning_first_is_raw_and_never_setting_is_not_done(self) -> None:
        raw = likely_done(made_up(150, 150, core_s=600), target())
        self.assertEqual((raw.limited_by, raw.is_pull), ("raw", False))
        self.assertLess(raw.t_s, 150 * (84 - BURNT_BASE_L) / 24 + 3)
        never = likely_done(made_up(3000, 3000, core_s=9999), target())
        self.assertEqual((never.limited_by, never.t_s), ("not done", float(T[-1])))

    def test_the_heavier_weight_pulls_the_moment(self) -> None:
        result = made_up(250, 450)
        base_first = likely_done(result, target(weight_rim=0.1)).t_s
        rim_first = likely_done(result, target(weight_base=0.1)).t_s
        self.assertLess(base_first, likely_done(result, target()).t_s)
        self.assertLess(likely_done(result, target()).t_s, rim_first)

    @given(st.floats(240, 420), st.floats(240, 420), st.floats(240, 420), st.sampled_from([0.0, 0.1, 0.3]))
    def test_it_is_the_mean_of_ln_time_over_the_moments_each_part_is_there(self, base_s: float, rim_s: float, cheese_s: float, weight: float) -> None:
        """Closed form: it minimises the weighted squares of the distances in ln(time)."""
        done = likely_done(made_up(base_s, rim_s, cheese_s=cheese_s), target(weight_cheese=weight, cheese=64.0))
        share, there = weight / 0.3, cheese_s * 20.0 / 24.0
        exact = math.exp((math.log(base_s) + math.log(rim_s) + share * math.log(there)) / (2.0 + share))
        self.assertAlmostEqual(done.t_s, exact, delta=0.06)

    def test_nobody_waits_till_the_rim_is_black_and_a_blank_rim_is_not_done(self) -> None:
        dark = likely_done(made_up(600, 200), target())
        self.assertAlmostEqual(dark.t_s, 200 * (24 + TOO_DARK_L) / 24, delta=4)
        pale = likely_done(made_up(475, 5000, cheese_s=120), target(weight_cheese=0.3, cheese=64.0))
        self.assertEqual((pale.limited_by, pale.is_pull), ("not done", False))

    def test_what_was_before_now_is_no_pull(self) -> None:
        done = likely_done(made_up(300, 300), target(), from_s=330.0)
        self.assertEqual((done.t_s, done.is_pull), (330.0, True))

    def test_what_is_farthest_off_limits(self) -> None:
        self.assertEqual(likely_done(made_up(700, 250), target(weight_rim=2.0)).limited_by, "base")
        self.assertEqual(likely_done(made_up(250, 700), target(weight_base=2.0)).limited_by, "rim")

    def test_pale_cheese_is_forgiven_and_dark_cheese_is_not(self) -> None:
        pale = likely_done(made_up(300, 300, cheese_s=900), target(weight_cheese=1.0, cheese=72.0)).distance
        dark = likely_done(made_up(300, 300, cheese_s=170), target(weight_cheese=1.0, cheese=72.0)).distance
        self.assertLess(pale, dark)

    def test_burning_is_told(self) -> None:
        done = likely_done(made_up(300, 200), target())
        assert done.burns_s is not None
        self.assertAlmostEqual(done.burns_s, 200 * (84 - BURNT_RIM_L) / 24, delta=4)
        self.assertGreater(done.burns_s, done.t_s)
        self.assertIsNone(likely_done(made_up(800, 800), target()).burns_s)


class FirstThere(TestCase):
    @given(st.floats(50, 800), st.floats(50, 82))
    def test_crossing_of_a_line_is_exact(self, through_s: float, aim: float) -> None:
        result = first_there(T, 84.0 - 24.0 * T / through_s, aim)
        exact = (84.0 - aim) * through_s / 24.0
        if exact <= T[-1]:
            assert result is not None
            self.assertAlmostEqual(result, exact, delta=1e-6 * max(1.0, exact) + 1e-9)
        else:
            self.assertIsNone(result)


class Targets(TestCase):
    def test_the_cooks_words_lie_over_the_styles(self) -> None:
        known = styles()["home_oven_round"]
        own = wanted(known, Target())
        self.assertEqual((own.base, own.rim), (known.target.base, known.target.rim))
        self.assertEqual(wanted(known, Target(base="brown")).base, 49.0)
        losses = [wanted(known, Target(crumb=word)).loss_pct for word in ("soft", "even", "crisp")]
        self.assertEqual(losses, sorted(losses))

    def test_every_style_is_whole(self) -> None:
        self.assertEqual(len(styles()), 13)
        for key, known in styles().items():
            with self.subTest(key):
                self.assertLess(known.bake_s[0], known.bake_s[1])
                self.assertTrue(0.15 <= known.mass_g / known.area_cm2 <= 0.9)
                self.assertTrue(known.about.endswith("."))
                self.assertTrue(40 < known.target.base < 80 and 40 < known.target.rim < 80)
                self.assertAlmostEqual(known.dough().loading_kg_m2, 10 * known.mass_g / known.area_cm2, places=2)
                self.assertGreater(known.toppings(1.3).mass_g, known.toppings(0.7).mass_g)

    def test_where_water_boils_cooler_the_core_is_set_below_it(self) -> None:
        for altitude_m in (-400.0, 0.0, 1500.0, 2500.0, 5000.0):
            for known in styles().values():
                core_c = wanted(known, Target(), altitude_m=altitude_m).core_c
                self.assertLessEqual(core_c, 98.3 - altitude_m / 310.0)
                self.assertTrue(core_c == known.core_c or altitude_m >= 700.0)

    def test_words_cover_every_value(self) -> None:
        bounds = [bound for _, bound in CRUMB_WORDS]
        self.assertEqual(bounds, sorted(bounds))
        self.assertGreater(bounds[-1], 99.0)
        self.assertFalse(math.isnan(bounds[0]))

    @given(st.floats(0, 20), st.floats(3, 40), st.floats(0, 35))
    def test_a_drier_base_never_bites_softer(self, dry_mm: float, baked: float, loss: float) -> None:
        order = ("limp", "bends", "crisp", "snaps")
        word = bite_word(dry_mm, baked, loss)
        self.assertLessEqual(order.index(word), order.index(bite_word(dry_mm + 0.5, baked, loss)))
        self.assertEqual(word == "limp", dry_mm < LIMP_MM)
        if dry_mm >= CRISP_MM:
            self.assertIn(word, ("crisp", "snaps"))

    def test_only_what_is_dry_all_through_snaps(self) -> None:
        """A focaccia and a family tray used to snap: 2.7 mm of dry layer counted, not what it is of the whole."""
        self.assertEqual(bite_word(2.8, 18.0, 13.0), "crisp")
        self.assertEqual(bite_word(2.5, 5.0, 19.0), "snaps")
        self.assertEqual([crumb_word(loss, 20.0) for loss in (15.0, 20.0, 25.0)], ["soft", "tender", "dry"])
        self.assertEqual([crumb_word(loss, 12.0) for loss in (10.0, 13.0, 18.0, 25.0)], ["soft", "tender", "dry", "brittle"])
