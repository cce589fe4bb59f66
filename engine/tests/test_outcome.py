"""Judging a bake: on made-up series, where the right answer is known."""

import math
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from mattone_engine.heat.outcome import (
    BURNT_BASE_L,
    BURNT_CHEESE_L,
    BURNT_RIM_L,
    CRISP_WORDS,
    CRUMB_WORDS,
    Series,
    TargetCrust,
    first_there,
    likely_done,
    wanted,
)
from mattone_engine.styles import styles
from mattone_engine.things import Target

T = np.arange(0.0, 900.0, 3.0)


def made_up(base_s: float = 300.0, rim_s: float = 300.0, core_s: float = 120.0, cheese_s: float = 900.0) -> Series:
    """Colours falling in straight lines from 84, each through 60 at its time; a core that sets at once."""

    def falling(s: float) -> np.ndarray:
        return np.maximum(5.0, 84.0 - 24.0 * T / s)

    flat = np.full(T.size, 100.0)
    return Series(
        t_s=T, deck_c=flat, air_c=flat, base_c=flat, base_l=falling(base_s), rim_l=falling(rim_s),
        hot_rim_l=falling(rim_s), cheese_l=falling(cheese_s), top_c=flat, half_cheese_l=falling(cheese_s)[None, :],
        half_wet_kg_m2=flat[None, :],
        core_c=np.where(core_s <= T, 99.0, 40.0), loss_pct=T / 40.0, dry_mm=T / 300.0, wet_kg_m2=flat, spot_pct=flat,
    )  # fmt: skip


def target(**changes: float) -> TargetCrust:
    given = {"base": 60.0, "rim": 60.0, "cheese": 60.0, "core_c": 93.0, "loss_pct": 12.0, "weight_base": 1.0, "weight_rim": 1.0, "weight_cheese": 0.0}
    return TargetCrust(**(given | changes))


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

    @given(st.floats(100, 700), st.floats(100, 700), st.floats(0, 500), st.floats(100, 900))
    def test_never_raw_and_never_burnt_when_there_is_a_choice(self, base_s: float, rim_s: float, core_s: float, cheese_s: float) -> None:
        result = made_up(base_s, rim_s, core_s, cheese_s)
        done = likely_done(result, target(weight_cheese=0.3))
        self.assertGreaterEqual(result.core_c[done.index], 93.0)
        burnt = (result.base_l < BURNT_BASE_L) | (result.rim_l < BURNT_RIM_L) | (result.cheese_l < BURNT_CHEESE_L)
        if (~burnt & (result.core_c >= 93.0)).any():
            self.assertFalse(burnt[done.index])
        else:
            self.assertEqual(done.limited_by, "core")

    def test_a_late_core_holds_the_pull(self) -> None:
        done = likely_done(made_up(200, 200, core_s=390), target())
        self.assertEqual((done.limited_by, done.t_s), ("core", 390.0))

    def test_the_heavier_weight_pulls_the_moment(self) -> None:
        result = made_up(250, 450)
        base_first = likely_done(result, target(weight_base=4.0)).t_s
        rim_first = likely_done(result, target(weight_rim=4.0)).t_s
        self.assertLess(base_first, likely_done(result, target()).t_s)
        self.assertLess(likely_done(result, target()).t_s, rim_first)

    def test_what_is_farthest_off_limits(self) -> None:
        self.assertEqual(likely_done(made_up(700, 250), target(weight_rim=2.0)).limited_by, "base")
        self.assertEqual(likely_done(made_up(250, 700), target(weight_base=2.0)).limited_by, "rim")

    def test_pale_cheese_is_forgiven_and_dark_cheese_is_not(self) -> None:
        pale = likely_done(made_up(300, 300, cheese_s=900), target(weight_cheese=1.0)).distance
        dark = likely_done(made_up(300, 300, cheese_s=170), target(weight_cheese=1.0)).distance
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

    def test_words_cover_every_value(self) -> None:
        for words, top in ((CRUMB_WORDS, 99.0), (CRISP_WORDS, 50.0)):
            bounds = [bound for _, bound in words]
            self.assertEqual(bounds, sorted(bounds))
            self.assertGreater(bounds[-1], top)
            self.assertFalse(math.isnan(bounds[0]))
