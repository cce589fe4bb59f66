"""Where a dough can be beside a room and a fridge, thin air, and pieces that go their own way."""

from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.of_dough import of_dough
from mattone_engine.days.timeline import timeline
from mattone_engine.dough.batch import BatchInput, DoughInput, batch
from mattone_engine.dough.ferment import ferment
from mattone_engine.dough.lines import FormulaInput, Line, Piece, Preferment
from mattone_engine.dough.rise import Chill, FermentInput, Rise, RiseStep, Seen, constants, dose, dough_temperature
from mattone_engine.errors import InputError
from pydantic import ValidationError

ROOM_THEN_COLD = (
    RiseStep(hours=2, temp_c=22),
    RiseStep(hours=20, temp_c=4, stage="balls", place="fridge"),
    RiseStep(hours=2, temp_c=22, stage="balls"),
)  # fmt: skip
TOMORROW = (RiseStep(hours=44, temp_c=4, stage="balls", place="fridge"), RiseStep(hours=2, temp_c=22, stage="balls"))
FROZEN = (
    RiseStep(hours=120, temp_c=-18, stage="balls", place="freezer"),
    RiseStep(hours=20, temp_c=4, stage="balls", place="fridge"),
    RiseStep(hours=3, temp_c=22, stage="balls"),
)  # fmt: skip


def dough(*pieces: Piece, steps: tuple[RiseStep, ...] = ROOM_THEN_COLD, **formula: Any) -> DoughInput:
    lines = (
        Line(ingredient="bread_flour", pct=100),
        Line(ingredient="water", pct=65),
        Line(ingredient="salt", pct=2.2),
        Line(ingredient="instant_yeast", pct=0.4),
    )
    made = {"lines": lines, "pieces": pieces or (Piece(count=4, mass_g=250),), **formula}
    return DoughInput(formula=FormulaInput.model_validate(made), steps=steps)


class Freezing(TestCase):
    def test_dough_halts_at_its_freezing_point_on_both_ways(self) -> None:
        request = FermentInput(ball_g=250, dough_c=22, steps=(RiseStep(hours=24, temp_c=-18, stage="balls"), RiseStep(hours=48, temp_c=4, stage="balls")))
        t = np.linspace(0, 72, 3601)
        found = dough_temperature(request, t)
        halts = np.isclose(found, constants().frozen_at, atol=1e-9)
        freezing, thawing = halts[t < 24].sum() * 0.02, halts[t >= 24].sum() * 0.02
        # Latent heat over what is exchanged: the gap to the freezer is 14 K, that to the fridge 8.
        self.assertAlmostEqual(thawing / freezing, 14 / 8, delta=0.05)
        self.assertTrue(3 < thawing < 9, thawing)
        self.assertLess(found[t < 24][-1], -15)
        self.assertGreater(found[-1], 3.5)

    @settings(max_examples=40)
    @given(first=st.floats(0.1, 30), place=st.floats(-25, 30), then=st.floats(-25, 30), at=st.floats(0.05, 0.95))
    def test_a_step_cut_in_two_is_the_same_step(self, first: float, place: float, then: float, at: float) -> None:
        whole = Chill(20.0, 0.0).after(first, place, 1.0).after(10.0, then, 1.0)
        cut = Chill(20.0, 0.0).after(first * at, place, 1.0).after(first * (1 - at), place, 1.0).after(10.0, then, 1.0)
        self.assertAlmostEqual(whole.temp_c, cut.temp_c, places=6)
        self.assertAlmostEqual(whole.frozen, cut.frozen, places=6)

    def test_a_frozen_dough_waits_and_some_of_its_yeast_dies(self) -> None:
        def end(*steps: RiseStep) -> float:
            return ferment(FermentInput(ball_g=250, yeast_pct=0.4, steps=steps)).windows[-1].ratio_at_end

        def for_days(hours: float) -> float:
            return end(RiseStep(hours=1, temp_c=22), RiseStep(hours=hours, temp_c=-18, stage="balls"), RiseStep(hours=16, temp_c=15, stage="balls"))

        self.assertAlmostEqual(for_days(48), for_days(160), delta=0.05)
        chilled = end(RiseStep(hours=1, temp_c=22), RiseStep(hours=48, temp_c=-3.9, stage="balls"), RiseStep(hours=16, temp_c=15, stage="balls"))
        self.assertLess(for_days(48), chilled)


class ThinAir(TestCase):
    def test_the_same_gas_stands_higher_and_is_no_further_on(self) -> None:
        steps = (RiseStep(hours=6, temp_c=22),)
        low, high = Rise(FermentInput(steps=steps)), Rise(FermentInput(steps=steps, altitude_m=1900))
        of = dose(low.request)
        self.assertTrue((high.ratio(of)[20:] > low.ratio(of)[20:]).all())
        np.testing.assert_allclose(high.worn(of, 1.0), low.worn(of, 1.0))
        # 1,900 m: a fifth less pressure, a quarter more volume of gas.
        self.assertAlmostEqual((high.ratio(of)[150] - 1) / (low.ratio(of)[150] - 1), 1.26, delta=0.02)

    def test_a_dough_in_the_mountains_wants_less_yeast(self) -> None:
        at = [batch(BatchInput(dough=dough().model_copy(update={"altitude_m": m}), solve="yeast")).rise.yeast_pct for m in (0.0, 1900.0)]
        self.assertLess(at[1], 0.92 * at[0])


class OwnWays(TestCase):
    def test_two_now_two_tomorrow_two_frozen_from_one_mix(self) -> None:
        made = dough(Piece(count=2, mass_g=250), Piece(count=2, mass_g=250, way=TOMORROW), Piece(count=2, mass_g=250, way=FROZEN))
        found = batch(BatchInput(dough=made))
        self.assertEqual([way.piece for way in found.ways], [1, 2])
        self.assertAlmostEqual(found.formula.dough_g, 6 * 250 * 1.015, places=6)
        self.assertEqual(sum(found.ways[0].rise.hours), 2 + 44 + 2)
        self.assertTrue(any("month" in text for text in found.cautions))
        # The bulk is one: until it is divided all rise alike.
        np.testing.assert_allclose(
            [w.windows[0].ratio_at_end for w in (found.rise, *(way.rise for way in found.ways))], found.rise.windows[0].ratio_at_end, atol=0.002
        )

    def test_who_goes_another_way_changes_nothing_for_the_rest(self) -> None:
        alone = batch(BatchInput(dough=dough(Piece(count=4, mass_g=250))))
        beside = batch(BatchInput(dough=dough(Piece(count=4, mass_g=250), Piece(count=1, mass_g=120, way=FROZEN), bowl_limit_g=20000)))
        self.assertAlmostEqual(alone.rise.windows[-1].ratio_at_end, beside.rise.windows[-1].ratio_at_end, delta=0.03)

    def test_later_is_so_many_hours_after_the_rest_whatever_the_programme(self) -> None:
        for steps in (ROOM_THEN_COLD, (RiseStep(hours=3, temp_c=22), RiseStep(hours=2, temp_c=22, stage="balls")), (RiseStep(hours=12, temp_c=21),)):
            offered = {way.key: way.steps for way in batch(BatchInput(dough=dough(steps=steps))).offered_ways}
            rest_h = sum(step.hours for step in steps if step.stage != "bulk") or 2.0
            self.assertEqual(sum(step.hours for step in offered["tomorrow"]), rest_h + 24)
            self.assertEqual(sum(step.hours for step in offered["later_today"]), rest_h + 5)
            for way in offered.values():
                # Each is one that a piece may take.
                self.assertTrue(batch(BatchInput(dough=dough(Piece(count=1, mass_g=250, way=tuple(way)), steps=steps))).ways)

    def test_a_way_begins_when_the_dough_is_divided(self) -> None:
        with self.assertRaisesRegex(ValidationError, "when the dough is divided"):
            Piece(count=2, mass_g=250, way=(RiseStep(hours=20, temp_c=4),))

    def test_the_days_tell_what_is_done_with_them(self) -> None:
        made = dough(Piece(count=2, mass_g=250), Piece(count=2, mass_g=250, way=TOMORROW), Piece(count=1, mass_g=120, way=FROZEN))
        told = timeline(
            TimelineInput(
                serve_at="2026-11-28T19:00",
                now="2026-11-26T12:00",
                pizzas=2,
                own_steps=made.steps,
                yeast_pct=0.3,
                **{k: v for k, v in of_dough(made).items() if k != "yeast_pct"},
            )
        )
        self.assertTrue(told.feasible)
        balls = next(step for step in told.steps if step.key == "ball")
        tomorrow = [one for one in told.later if one.name.startswith("2 ×")]
        self.assertEqual(tomorrow[0].at, balls.ends)
        assert tomorrow[-1].at
        self.assertGreater(tomorrow[-1].at, told.serve_at)
        frozen = [one for one in told.later if one.name.startswith("1 ×")]
        self.assertIn("freezer", frozen[0].text)
        self.assertIsNone(frozen[-1].at)


class ProofBox(TestCase):
    steps = (RiseStep(hours=2, temp_c=27, place="oven"), RiseStep(hours=2.5, temp_c=27, stage="balls", place="oven"))

    def test_the_dough_is_out_of_the_oven_before_it_heats(self) -> None:
        for preheat in (30.0, 75.0):
            with self.subTest(preheat=preheat):
                told = timeline(TimelineInput(serve_at="2026-11-28T19:00", now="2026-11-28T08:00", own_steps=self.steps, preheat_min=preheat))
                self.assertTrue(told.feasible, told.clash)
                out, heat = (next(step for step in told.steps if step.key == key) for key in ("oven_out", "heat"))
                self.assertLessEqual(out.ends, heat.at)
                inside = [wait for wait in told.waits if wait.place == "oven"]
                self.assertTrue(inside)
                self.assertTrue(all(wait.to_at <= heat.at for wait in inside))

    def test_its_cautions_stand_with_it(self) -> None:
        found = batch(BatchInput(dough=dough(steps=self.steps))).cautions
        self.assertTrue(any("no rack is hot" in text and "vents" in text and "dial" in text for text in found))


class ByStarterAlone(TestCase):
    def sourdough(self, **changes: Any) -> DoughInput:
        lines = (Line(ingredient="bread_flour", pct=100), Line(ingredient="water", pct=65), Line(ingredient="salt", pct=2.2))
        return dough(lines=lines, preferments=(Preferment(kind="starter", flour_pct=10),), **changes)

    def test_a_dose_is_of_its_starter_and_never_of_yeast(self) -> None:
        asked = self.sourdough(steps=(RiseStep(hours=6, temp_c=24), RiseStep(hours=3, temp_c=24, stage="balls")))
        found = batch(BatchInput(dough=asked, solve="yeast"))
        self.assertFalse([row for row in found.formula.rows if row.role == "yeast"])
        self.assertEqual(found.rise.windows[-1].word, "ripe")
        self.assertNotEqual(found.dough.formula.preferments[0].flour_pct, 10)
        lines = [("bread_flour", 100), ("water", 58), ("salt", 2.2), ("starter", 20)]
        as_line = dough(lines=tuple(Line(ingredient=key, pct=pct) for key, pct in lines), steps=asked.steps)
        again = batch(BatchInput(dough=as_line, solve="yeast"))
        self.assertFalse([row for row in again.formula.rows if row.role == "yeast"])
        self.assertEqual(again.rise.windows[-1].word, "ripe")

    def test_what_no_starter_can_do_is_refused_with_a_way_out(self) -> None:
        with self.assertRaisesRegex(InputError, "of starter is too slow.*its last step would take about"):
            batch(BatchInput(dough=self.sourdough(steps=(RiseStep(hours=1, temp_c=20),)), solve="yeast"))


class Sightings(TestCase):
    request = FermentInput(steps=(RiseStep(hours=10, temp_c=21),), yeast_pct=0.3, dough_c=21)

    def seen(self, *looks: tuple[float, float]) -> Any:
        return ferment(self.request.model_copy(update={"seen": tuple(Seen(at_h=h, ratio=x) for h, x in looks)}))

    def test_a_dough_that_has_not_moved_is_dead_or_cold_not_noise(self) -> None:
        found = self.seen((5.0, 1.0))
        assert found.doubt
        self.assertIn("dead, or the dough is colder", found.doubt)
        self.assertLess(found.speed, 0.5)

    def test_a_dough_as_far_as_it_goes_is_used_now(self) -> None:
        found = self.seen((4.0, 5.0))
        assert found.doubt
        self.assertIn("now", found.doubt)
        self.assertGreater(found.speed, 1.5)

    def test_what_was_seen_last_counts_as_last_whenever_it_was_told(self) -> None:
        looks = ((1.0, 1.0), (4.0, 5.0))
        in_order, told_late = self.seen(*looks), self.seen(*reversed(looks))
        self.assertEqual((in_order.doubt, in_order.speed), (told_late.doubt, told_late.speed))
        assert in_order.doubt
        self.assertIn("as far as it goes", in_order.doubt)

    def test_a_usual_look_raises_no_doubt(self) -> None:
        at = float(np.interp(4.0, (plain := ferment(self.request)).t_h, plain.ratio))
        for share in (0.9, 1.0, 1.12):
            self.assertIsNone(self.seen((4.0, at * share)).doubt)
        self.assertIsNone(self.seen((0.5, 1.0)).doubt)

    def test_one_wrong_look_among_true_ones_hardly_counts(self) -> None:
        at = lambda h: float(np.interp(h, (plain := ferment(self.request)).t_h, plain.ratio))  # noqa: E731
        true = self.seen((3.0, at(3)), (4.0, at(4)), (6.0, at(6)))
        spoilt = self.seen((3.0, at(3)), (4.0, at(4)), (5.0, 5.0), (6.0, at(6)))
        self.assertAlmostEqual(true.speed, spoilt.speed, delta=0.12)


class AfterARipeBulk(TestCase):
    def test_balls_of_a_ripe_dough_want_but_a_rest(self) -> None:
        overnight = FermentInput(yeast_pct=0.12, dough_c=23, steps=(RiseStep(hours=14, temp_c=21), RiseStep(hours=1.5, temp_c=21, stage="balls")))
        found = ferment(overnight)
        self.assertEqual([w.word for w in found.windows], ["ripe", "ripe"])
        young = ferment(overnight.model_copy(update={"steps": (RiseStep(hours=1, temp_c=21), RiseStep(hours=1.5, temp_c=21, stage="balls"))}))
        self.assertNotEqual(young.windows[-1].word, "ripe")


class Container(TestCase):
    def test_it_holds_the_dough_at_its_highest(self) -> None:
        found = batch(BatchInput(dough=dough(steps=(RiseStep(hours=4, temp_c=24), RiseStep(hours=2, temp_c=24, stage="balls")))))
        start_l = found.formula.dough_g / 1100.0
        self.assertGreater(found.container_l, start_l * found.rise.windows[0].ratio_at_end)
        self.assertLess(found.container_l, start_l * 5.0)
