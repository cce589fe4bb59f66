"""Fermentation: the reference points of general practice, and the sense a dough must make."""

import math
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.dough.ferment import Window, ferment
from mattone_engine.dough.rise import FermentInput, Rise, RiseStep, Seen, constants, dose, dough_temperature, gas, gas_for, held, lag_h, rate_at, volume
from mattone_engine.errors import InputError
from pydantic import ValidationError


def doubling_h(yeast_pct: float, *steps: tuple[float, float], starter_pct: float = 0.0, mass_g: float = 1000.0) -> float:
    """Hours until a bulk is twice its start; steps are (hours, C), the last goes on."""
    request = FermentInput(
        yeast_pct=yeast_pct, starter_pct=starter_pct, salt_pct=2.0, dough_c=steps[0][1], mass_g=mass_g,
        steps=tuple(RiseStep(hours=hours, temp_c=temp) for hours, temp in steps),
    )  # fmt: skip
    t = np.linspace(0.0, sum(h for h, _ in steps), 6000)
    dough_c = dough_temperature(request, t)
    inside = held(gas(dose(request), t, dough_c), t, rate_at(dough_c))
    return float(t[int(np.argmax(inside >= 1.0))])


# Practice leaves these doughs so long: dose in %, steps (hours, C, stage), temperature and mass of the dough, usable from and to, h.
USABLE = (
    ("without kneading, wet", 0.2, ((60, 20.5, "bulk"),), 23.0, 800.0, 10.0, 20.0),
    ("a trace in a room", 0.07, ((80, 21, "bulk"),), 23.0, 1000.0, 16.0, 30.0),
    ("oiled balls, soon cold", 0.5, ((0.75, 22, "bulk"), (160, 4, "balls")), 24.0, 250.0, 18.0, 120.0),
    ("cold at once", 0.8, ((150, 4, "balls"),), 21.0, 250.0, 12.0, 72.0),
    ("an hour's dough", 2.0, ((12, 26, "bulk"),), 26.0, 500.0, 35 / 60, 2.5),
)  # fmt: skip


# Points of practice that contradict each other give way by so much: 0.3 % doubles in 20 to 30 h after an hour in a room and then at 4 C, yet
# 0.5 % put there at once takes 22 or more; a wet dough of 0.2 % is usable from 10 h, yet 0.1 % at 25 C doubles within 9.5.
GIVES = 1.05
# Hours of a dose in % (bulk and balls, h at C), and what practice doses for them.
DOSES = (
    (((2, 30), (6, 30)), 0.03, 0.08), (((2, 24), (6, 24)), 0.08, 0.16), (((8, 21), (4, 21)), 0.10, 0.16), (((2, 24), (2, 24)), 0.3, 0.55),
    (((0.5, 27), (0.5, 27)), 2.0, 3.5),
)  # fmt: skip
# Dose, C, and hours until twice the start. At 10 C 20 to 36 h are wanted: that cannot hold beside 20 to 30 h for the same dose at 4 C after an
# hour in a room; the fridge, which more doughs see, is kept, and 10 C gives way.
DOUBLINGS = ((0.3, 10, 16.0, 36.0), (0.1, 25, 7.0, 9.5), (1.0, 35, 0.75, 1.0))


class Bands(TestCase):
    """Bands of general practice for doses and doublings."""

    def test_doses_for_balls_ripe_in_time(self) -> None:
        for ((bulk_h, bulk_c), (balls_h, balls_c)), low, high in DOSES:
            steps = (RiseStep(hours=bulk_h, temp_c=bulk_c), RiseStep(hours=balls_h, temp_c=balls_c, stage="balls"))
            dosed = ferment(FermentInput(solve="yeast", salt_pct=2.0, dough_c=bulk_c, mass_g=1000, ball_g=250, steps=steps)).yeast_pct
            with self.subTest(hours=bulk_h + balls_h, at=balls_c):
                self.assertTrue(low <= dosed <= high, dosed)

    def test_doublings_in_cool_and_warm_places(self) -> None:
        for dosed, temp_c, low, high in DOUBLINGS:
            with self.subTest(dosed=dosed, at=temp_c):
                self.assertTrue(low <= doubling_h(dosed, (80, temp_c)) <= high, doubling_h(dosed, (80, temp_c)))

    def test_cold_at_once_and_starters(self) -> None:
        at_once = doubling_h(0.5, (0.01, 22), (120, 4), mass_g=250.0)
        self.assertTrue(22 / GIVES <= at_once <= 36, at_once)
        cold = doubling_h(0.0, (2, 24), (160, 4), starter_pct=20, mass_g=250.0)
        self.assertTrue(30 <= cold <= 60, cold)
        warm = doubling_h(0.0, (40, 26), starter_pct=10)
        self.assertTrue(6 <= warm <= 8.5, warm)

    def test_ten_degrees_more_are_twice_as_fast(self) -> None:
        self.assertTrue(2.0 <= doubling_h(0.3, (80, 17)) / doubling_h(0.3, (80, 27)) <= 2.4)


class ReferencePoints(TestCase):
    """62 % water, 2 % salt, until twice the start, in hours."""

    def test_rooms(self) -> None:
        for yeast, temp, low, high in ((1.0, 26, 1.2, 1.6), (0.5, 24, 2.5, 3.5), (0.3, 21, 5.5, 8.0), (0.1, 21, 11, 15), (0.05, 20, 16, 22)):
            with self.subTest(yeast=yeast, temp=temp):
                self.assertTrue(low <= doubling_h(yeast, (60, temp)) <= high, doubling_h(yeast, (60, temp)))

    def test_fridges(self) -> None:
        for yeast, low, high in ((0.3, 20, 30 * GIVES), (0.15, 48, 72)):
            with self.subTest(yeast=yeast):
                hours = doubling_h(yeast, (1, 21), (120, 4), mass_g=250.0)
                self.assertTrue(low <= hours <= high, hours)

    def test_starters(self) -> None:
        for starter, temp, low, high in ((20, 24, 5, 7), (10, 21, 10, 13)):
            with self.subTest(starter=starter):
                hours = doubling_h(0.0, (40, temp), starter_pct=starter)
                self.assertTrue(low <= hours <= high, hours)

    def test_what_practice_calls_usable(self) -> None:
        for name, yeast, steps, dough_c, mass_g, from_h, to_h in USABLE:
            with self.subTest(name):
                request = FermentInput(
                    yeast_pct=yeast, salt_pct=2.0, dough_c=dough_c, mass_g=mass_g, ball_g=mass_g,
                    steps=tuple(RiseStep(hours=h, temp_c=c, stage=stage) for h, c, stage in steps),
                )  # fmt: skip
                window = ferment(request).windows[-1]
                assert window.ready_h and window.too_far_h
                self.assertTrue(0.8 / GIVES <= window.ready_h / from_h <= 1.2 * GIVES, window.ready_h)
                self.assertTrue(0.8 <= window.too_far_h / to_h <= 1.2, window.too_far_h)
                # Nobody can know it better than by a fifth.
                assert window.ready_early_h and window.ready_late_h
                self.assertLess(window.ready_early_h, 0.9 * window.ready_h)
                self.assertGreater(window.ready_late_h, 1.1 * window.ready_h)

    def test_a_kilogram_takes_hours_to_cool_and_a_ball_about_one(self) -> None:
        self.assertTrue(1.5 < lag_h(1000) < 3.0)
        self.assertTrue(0.7 < lag_h(250) < 1.3)


def gas_after(yeast_pct: float, temp_c: float, hours: float = 12.0) -> float:
    request = FermentInput(yeast_pct=yeast_pct, dough_c=temp_c, steps=(RiseStep(hours=hours, temp_c=temp_c),))
    t = np.linspace(0.0, hours, 1200)
    return float(gas(dose(request), t, dough_temperature(request, t))[-1])


class Sense(TestCase):
    @settings(max_examples=60)
    @given(cool=st.floats(2, 32), by=st.floats(0.5, 10), yeast=st.floats(0.05, 1.5))
    def test_warmer_makes_more_gas_below_the_optimum(self, cool: float, by: float, yeast: float) -> None:
        warm = min(33.5, cool + by)
        self.assertGreaterEqual(gas_after(yeast, warm), gas_after(yeast, cool))

    @settings(max_examples=60)
    @given(yeast=st.floats(0.02, 1.5), by=st.floats(1.05, 3), temp=st.floats(3, 34))
    def test_more_yeast_makes_more_gas(self, yeast: float, by: float, temp: float) -> None:
        self.assertGreater(gas_after(min(5, yeast * by), temp), gas_after(yeast, temp))

    @settings(max_examples=40)
    @given(yeast=st.floats(0.02, 2), temps=st.lists(st.floats(-3, 44), min_size=1, max_size=5))
    def test_it_never_sinks_within_a_stage_before_it_is_used_up(self, yeast: float, temps: list[float]) -> None:
        rise = Rise(FermentInput(yeast_pct=yeast, steps=tuple(RiseStep(hours=3, temp_c=t) for t in temps)))
        of = dose(rise.request)
        fresh = rise.worn(of, 1.25) < 1.0
        slow, usual, fast = (rise.ratio(of, speed)[fresh] for speed in (0.8, 1.0, 1.25))
        self.assertTrue((np.diff(usual) >= -1e-9).all())
        self.assertTrue((fast >= usual - 1e-9).all() and (usual >= slow - 1e-9).all())

    def test_nothing_grows_at_the_ends_and_most_at_the_optimum(self) -> None:
        c = constants()
        self.assertEqual(float(rate_at(c.t_min)), 0.0)
        self.assertEqual(float(rate_at(c.t_max)), 0.0)
        grid = np.linspace(c.t_min, c.t_max, 2001)
        self.assertAlmostEqual(float(grid[int(np.argmax(rate_at(grid)))]), c.t_opt, delta=0.05)
        self.assertAlmostEqual(float(rate_at(c.t_reference)), 1.0)

    @given(st.floats(1.0, 3.9))
    def test_volume_and_gas_are_inverse(self, ratio: float) -> None:
        self.assertAlmostEqual(float(volume(np.array([gas_for(ratio)]))[0]), ratio, places=9)

    def test_salt_slows_and_much_sugar_too(self) -> None:
        def rises(**changes: float) -> float:
            return dose(FermentInput(steps=(RiseStep(hours=4, temp_c=24),), **changes))

        self.assertGreater(rises(salt_pct=1.5), rises(salt_pct=3.0))
        self.assertEqual(rises(sugar_pct=0.0), rises(sugar_pct=4.0))
        self.assertGreater(rises(sugar_pct=4.0), rises(sugar_pct=12.0))

    def test_temperature_follows_exactly(self) -> None:
        request = FermentInput(dough_c=24, mass_g=1000, steps=(RiseStep(hours=2, temp_c=24), RiseStep(hours=6, temp_c=4)))
        t = np.array([1.0, 2.0, 2.0 + lag_h(1000), 7.9])
        result = dough_temperature(request, t)
        self.assertAlmostEqual(result[0], 24.0)
        self.assertAlmostEqual(result[2], 4.0 + 20.0 / math.e, places=6)


PROGRAMMES = (
    (RiseStep(hours=2, temp_c=24), RiseStep(hours=2, temp_c=24, stage="balls")),
    (RiseStep(hours=14, temp_c=20), RiseStep(hours=3, temp_c=22, stage="balls")),
    (RiseStep(hours=1, temp_c=21), RiseStep(hours=44, temp_c=4, stage="balls"), RiseStep(hours=2, temp_c=21, stage="balls")),
    (RiseStep(hours=18, temp_c=4), RiseStep(hours=2, temp_c=24, stage="pan")),
)


class Solved(TestCase):
    def test_the_dose_brings_the_last_stage_to_its_best(self) -> None:
        for steps in (PROGRAMMES[0], PROGRAMMES[2]):
            with self.subTest(steps=len(steps)):
                result = ferment(FermentInput(steps=steps, solve="yeast"))
                last = result.windows[-1]
                assert last.best_h
                self.assertEqual([w.word for w in result.windows][-1], "ripe")
                self.assertAlmostEqual(last.best_h - last.from_h, last.to_h - last.from_h, delta=0.15 * (last.to_h - last.from_h))
                self.assertGreater(last.too_far_h or 1000.0, last.to_h)
                self.assertTrue(0.005 < result.yeast_pct < 3.0)

    @settings(max_examples=40)
    @given(bulk_h=st.floats(0.5, 20), bulk_c=st.floats(3, 30), rest_h=st.floats(0.5, 40), rest_c=st.floats(3, 28), last=st.sampled_from(["balls", "pan"]))
    def test_a_dose_ends_ripe_or_says_that_no_dose_does(self, bulk_h: float, bulk_c: float, rest_h: float, rest_c: float, last: str) -> None:
        steps = (RiseStep(hours=bulk_h, temp_c=bulk_c), RiseStep(hours=rest_h, temp_c=rest_c, stage=last))  # type: ignore[arg-type]
        try:
            found = ferment(FermentInput(steps=steps, solve="yeast"))
        except InputError as refused:
            self.assertRegex(refused.message, "too slow|goes too far")
            return
        well = found.windows[-1].word == "ripe" and all(w.word != "too far" and not w.past for w in found.windows)
        self.assertEqual(well, found.good)
        self.assertNotEqual(well, found.say.startswith("No dose suits every stage"), found.say)

    def test_a_bulk_far_past_its_best_is_told_though_the_balls_end_ripe(self) -> None:
        steps = (RiseStep(hours=14, temp_c=21), RiseStep(hours=4, temp_c=12, stage="balls"))
        found = ferment(FermentInput(steps=steps, yeast_pct=0.2, altitude_m=1900))
        self.assertEqual([w.word for w in found.windows], ["ripe", "ripe"])
        self.assertTrue(found.windows[0].past and not found.windows[1].past)
        self.assertFalse(found.good)
        self.assertRegex(found.say, r"^The bulk is past its best before it is divided, at x3\.\d.*still ripe at the end")

    def test_colder_days_want_about_what_is_usual(self) -> None:
        self.assertTrue(0.05 < ferment(FermentInput(steps=PROGRAMMES[2], solve="yeast")).yeast_pct < 0.5)
        # Overnight in a room the bulk binds: the dose lies between what it and the balls would like.
        self.assertTrue(0.05 < ferment(FermentInput(steps=PROGRAMMES[1], solve="yeast")).yeast_pct < 0.25)

    def test_the_time_for_a_dose(self) -> None:
        result = ferment(FermentInput(steps=(RiseStep(hours=1, temp_c=24),), yeast_pct=0.5, salt_pct=2.0, dough_c=24, solve="last"))
        self.assertTrue(2.8 < result.hours[0] < 3.8, result.hours)

    def test_what_cannot_be_is_refused_with_a_way_out(self) -> None:
        for request, words in (
            (FermentInput(steps=(RiseStep(hours=0.4, temp_c=5),), solve="yeast"), "too slow"),
            (FermentInput(steps=(RiseStep(hours=160, temp_c=30),), starter_pct=20, solve="yeast"), "too much"),
            (FermentInput(steps=(RiseStep(hours=4, temp_c=-20),), solve="last"), "never"),
        ):
            with self.assertRaisesRegex(InputError, words):
                ferment(request)
        with self.assertRaisesRegex(ValidationError, "nothing raises"):
            FermentInput(steps=(RiseStep(hours=4, temp_c=24),), yeast_pct=0)
        with self.assertRaisesRegex(ValidationError, "not back"):
            FermentInput(steps=(RiseStep(hours=4, temp_c=24, stage="balls"), RiseStep(hours=4, temp_c=24)))


class WithoutGluten(TestCase):
    """What holds no gluten holds less gas: it is ripe when it has puffed by half, and falls in sooner."""

    @staticmethod
    def last(gluten: float, **changes: float) -> Window:
        return ferment(FermentInput(steps=(RiseStep(hours=6, temp_c=24),), yeast_pct=1.5, gluten=gluten, **changes)).windows[-1]

    def test_practice(self) -> None:
        found = self.last(0.0)
        assert found.ready and found.best and found.ready_h and found.too_far_h
        self.assertTrue(1.35 < found.ready < found.best < 1.65, found)
        # 45 min to an hour in a warm kitchen, and hardly more than two.
        self.assertTrue(0.4 < found.ready_h < 1.0 < found.too_far_h < 2.5, found)

    @settings(max_examples=30)
    @given(less=st.floats(0, 1), more=st.floats(0, 1), yeast=st.floats(0.2, 2.5))
    def test_the_less_gluten_the_lower_the_sooner(self, less: float, more: float, yeast: float) -> None:
        low, high = (ferment(FermentInput(steps=(RiseStep(hours=8, temp_c=23),), yeast_pct=yeast, gluten=g)) for g in sorted((less, more)))
        self.assertTrue(all(a <= b + 1e-9 for a, b in zip(low.ratio, high.ratio, strict=True)))
        self.assertLessEqual(low.windows[0].ready_h or 99.0, (high.windows[0].ready_h or 99.0) + 1e-9)
        self.assertLessEqual(low.windows[0].too_far_h or 99.0, (high.windows[0].too_far_h or 99.0) + 1e-9)

    @given(st.floats(0.2, 1.0), st.floats(0.01, 0.99))
    def test_volume_and_gas_are_inverse_whatever_it_holds(self, holds: float, share: float) -> None:
        ratio = 1.0 + share * holds * (constants().limit - 1.0)
        self.assertAlmostEqual(float(volume(np.array([gas_for(ratio, holds)]), holds)[0]), ratio, places=9)


class WhatTheCookSaw(TestCase):
    request = FermentInput(steps=(RiseStep(hours=8, temp_c=21),), yeast_pct=0.3, dough_c=21)

    def test_a_fast_dough_is_ready_sooner_and_known_better(self) -> None:
        before = ferment(self.request)
        model_at = float(np.interp(3.0, before.t_h, before.ratio))
        after = ferment(self.request.model_copy(update={"seen": (Seen(at_h=3.0, ratio=model_at + 0.25),)}))
        assert before.windows[0].best_h and after.windows[0].best_h
        self.assertLess(after.windows[0].best_h, before.windows[0].best_h - 0.2)
        self.assertLess(after.spread, 0.75 * before.spread)
        self.assertGreater(after.speed, 1.0)

    @settings(max_examples=25)
    @given(hidden=st.floats(0.7, 1.4), at=st.lists(st.floats(2.0, 6.5), min_size=3, max_size=5, unique=True))
    def test_a_hidden_speed_is_found_from_a_few_looks(self, hidden: float, at: list[float]) -> None:
        t = np.linspace(0, 8, 801)
        dough_c = dough_temperature(self.request, t)
        true = volume(held(gas(dose(self.request), t * hidden, dough_c), t * hidden, rate_at(dough_c)))
        seen = tuple(Seen(at_h=h, ratio=float(np.interp(h, t, true))) for h in sorted(at) if np.interp(h, t, true) > 1.15)
        result = ferment(self.request.model_copy(update={"seen": seen}))
        # Looks at a dough that has hardly risen tell little, and what is usual weighs more.
        if len(seen) >= 2 and seen[-1].ratio > 1.4:
            self.assertAlmostEqual(math.log(result.speed), math.log(hidden), delta=0.12)
        self.assertLessEqual(result.spread, constants().spread + 1e-3)
