"""Every method of baking: found where the rig allows it, refused where cautions forbid it, told in words."""

from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.controls import Controls, DoughChange, Move, Span
from mattone_engine.bake.dough_change import change_of, more
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.limits import limits_of
from mattone_engine.bake.methods import possible_methods
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import RowInput, row
from mattone_engine.bake.search import Search
from mattone_engine.bake.simulate import simulate
from mattone_engine.errors import InputError
from mattone_engine.heat.outcome import MELTED_C, series
from mattone_engine.heat.run import Bake
from mattone_engine.styles import styles
from mattone_engine.things import Event, Overhead, Pan, Surface, Toppings
from mattone_engine.things.capabilities import kinds
from mattone_engine.things.hearth import HearthLimits
from pydantic import ValidationError
from rigs import bake_on

OVEN = HearthLimits(max_setpoint_c=275, dial_error_k=-14)
FIRES = {
    "flame_oven": HearthLimits(kind="flame_oven", max_setpoint_c=450, levels=1, has_fan=False, top_element_kw=0),
    "gas_grill": HearthLimits(kind="gas_grill", max_setpoint_c=340, levels=1, has_fan=False, top_element_kw=0),
    "charcoal_grill": HearthLimits(kind="charcoal_grill", max_setpoint_c=360, levels=1, has_fan=False, top_element_kw=0),
}
STEEL, STONE, GRATE = Surface(kind="steel", thickness_mm=10), Surface(kind="stone", thickness_mm=15), Surface(kind="grate", thickness_mm=8)
IRON = Pan(kind="cast_iron", thickness_mm=5)


def request(style: str = "home_oven_round", **changes: object) -> PlanInput:
    known = styles()[style]
    given: dict[str, object] = {"hearth": OVEN, "dough": known.dough(), "toppings": known.toppings(), "style": style}
    if "pan" not in changes and "surface" not in changes:
        given["surface"] = STEEL
    return PlanInput(**(given | changes))  # type: ignore[arg-type]


class Methods(TestCase):
    def test_each_possible_school_can_be_had_by_asking_for_it(self) -> None:
        rigs = {
            "round on steel": request(spares=(STONE,)),
            "iron pan": request("cast_iron_pan", pan=IRON, hob_kw=2.0),
            "upturned tray": request("thin_crisp", surface=Surface(kind="upturned_tray", thickness_mm=1.5)),
        }
        for name, question in rigs.items():
            every = {option.method for option in plan(question).plans}
            for method in possible_methods(question, limits_of(question)):
                with self.subTest(rig=name, method=method):
                    told = plan(question.model_copy(update={"methods": (method,)}))
                    self.assertEqual(told.method, method)
                    self.assertIn(method, every)
                    self.assertLessEqual(len(told.card), 12)
                    self.assertLess(max(told.result.closure.energy, told.result.closure.water), 1e-9)

    def test_a_school_this_rig_lacks_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "no way to bake by hob start"):
            plan(request(methods=("hob start",)))

    def test_the_best_is_not_worse_than_any_school(self) -> None:
        told = plan(request("cast_iron_pan", pan=IRON, hob_kw=2.0))
        self.assertEqual(told.plans[0].score, min(option.score for option in told.plans))
        self.assertGreaterEqual(len(told.plans), 4)

    def test_handlings_are_told_with_what_would_be_without_them(self) -> None:
        controls = Controls(
            setpoint_c=260, level=2, preheat_min=45, shield=Span(on_s=240, off_s=600), overhead=Overhead(kind="stone", thickness_mm=15, level=4),
            cheese="frozen", dough=DoughChange(hydration_pct=4, paste_pct=10),
        )  # fmt: skip
        told = plan(request(spares=(STONE,), controls=controls))
        said = {reason.decision: reason for reason in told.reasons}
        for decision in ("shield", "overhead", "cheese", "dough"):
            self.assertIn("Without it", said[decision].otherwise)
        kinds = [step.kind for step in told.card]
        self.assertIn("shield_on", kinds)
        tray = request(
            "thin_crisp",
            surface=Surface(kind="upturned_tray", thickness_mm=1.5),
            controls=Controls(setpoint_c=250, level=2, preheat_min=30, move=Move(at_s=150, level=4)),
        )
        moved = plan(tray)
        self.assertIn("Without it", next(reason for reason in moved.reasons if reason.decision == "move").otherwise)
        self.assertIn("move", [step.kind for step in moved.card])
        self.assertEqual(told.dough.hydration_pct, styles()["home_oven_round"].hydration_pct + 4)

    def test_changes_of_a_dough_are_piled_up_no_further_than_one_may_be(self) -> None:
        """Scalded flour three times over ended the oven's wish with an error."""
        piled: dict[str, float] = {}
        for _ in range(2):
            piled |= more(piled, "paste_pct", 10.0)
            self.assertIsNotNone(change_of(piled))
        self.assertIsNone(change_of(piled | more(piled, "paste_pct", 10.0)))

    def test_a_free_formula_is_never_worse_and_stays_near_its_style(self) -> None:
        tray = request("roman_tray", pan=Pan(kind="blue_steel", thickness_mm=1.2))
        bound, free = plan(tray), plan(tray.model_copy(update={"formula_free": True}))
        self.assertLessEqual(free.plans[0].score, bound.plans[0].score)
        band = styles()["roman_tray"].band
        self.assertLessEqual(free.dough.hydration_pct, band.hydration_pct[1] + 2)
        self.assertLessEqual(free.dough.oil_pct, band.oil_pct[1] + 2)


class Forbidden(TestCase):
    def refused(self, words: str, **changes: object) -> None:
        with self.assertRaisesRegex(ValidationError, words):
            request(**changes)  # type: ignore[arg-type]

    def test_cautions_forbid(self) -> None:
        top = Controls(setpoint_c=220, level=4, preheat_min=40, top_element=Span(on_s=0, off_s=60))
        self.refused("never over baking paper", parchment=True, controls=top)
        self.refused("too hot for the baking paper", parchment=True, controls=Controls(setpoint_c=250, level=4, preheat_min=40))
        self.refused(
            "coating", style="grandma", pan=Pan(kind="dark_aluminium"), coating_limit_c=230, controls=Controls(setpoint_c=250, level=2, preheat_min=30)
        )
        self.refused("bare metal pan", style="cast_iron_pan", pan=IRON, controls=Controls(setpoint_c=250, level=2, preheat_min=30, hob_s=120))
        self.refused("does not bake by itself", hearth=HearthLimits(kind="hob"))
        self.refused("no fan", hearth=FIRES["gas_grill"], controls=Controls(setpoint_c=300, level=1, preheat_min=20, fan=True))
        self.refused("dome_over_k", hearth=FIRES["gas_grill"], controls=Controls(setpoint_c=300, level=1, preheat_min=20, dome_over_k=90))
        self.refused(
            "no such second deck", controls=Controls(setpoint_c=250, level=1, preheat_min=40, overhead=Overhead(kind="stone", thickness_mm=15, level=3))
        )
        with self.assertRaisesRegex(ValidationError, "no dial goes"):
            HearthLimits(max_setpoint_c=420)

    def test_paper_and_coatings_hold_the_search_below_their_limits(self) -> None:
        paper = plan(request(parchment=True))
        self.assertLessEqual(paper.controls.setpoint_c, 230)
        self.assertIsNone(paper.controls.top_element)
        coated = plan(request("grandma", pan=Pan(kind="dark_aluminium", thickness_mm=1.6), coating_limit_c=230.0, hob_kw=2.0))
        # The dial gives 14 K less than it says.
        self.assertLessEqual(coated.controls.setpoint_c, 230 + 14)
        self.assertIsNone(coated.controls.hob_s)
        self.assertIn("limit", {reason.decision for reason in coated.reasons})


class OverAFire(TestCase):
    def test_each_fire_has_a_plan_outdoors(self) -> None:
        for kind, style, surface in (
            ("flame_oven", "neapolitan", STONE),
            ("gas_grill", "grilled", STONE),
            ("gas_grill", "grilled", GRATE),
            ("charcoal_grill", "grilled", GRATE),
        ):
            with self.subTest(kind=kind, surface=surface.kind):
                told = plan(request(style, hearth=FIRES[kind], surface=surface))
                fire = kinds().hearths[kind].fire
                self.assertTrue(fire.lowest_c <= told.controls.setpoint_c <= FIRES[kind].max_setpoint_c)
                self.assertIn(told.word, ("made for it", "works", "a stretch"))
                self.assertIn("utdoors only", " ".join(c for step in told.card for c in step.cautions))
                low, high = styles()[style].bake_s
                self.assertTrue(0.6 * low < told.result.likely_done_s < 1.5 * high, told.result.likely_done_s)
                self.assertGreater(told.result.not_later_s / told.result.look_from_s, 1.4)
                self.assertGreater(len(told.result.preheat.t_s), 10)
                self.assertEqual(surface.kind == "grate", told.controls.flip_s is not None)

    def test_a_fire_that_was_not_waited_for_launches_cold(self) -> None:
        early = Controls(setpoint_c=400, level=1, preheat_min=6, dome_over_k=30)
        cold = simulate(bake_of(request("neapolitan", hearth=FIRES["flame_oven"], surface=STONE), early), spread=(0.8, 1.3))
        hot = simulate(
            bake_of(request("neapolitan", hearth=FIRES["flame_oven"], surface=STONE), early.model_copy(update={"preheat_min": 45.0})), spread=(0.8, 1.3)
        )
        self.assertLess(cold.deck_at_launch_c, hot.deck_at_launch_c - 50)
        self.assertAlmostEqual(hot.deck_at_launch_c, 400, delta=0.1)
        self.assertGreater(cold.likely_done_s, hot.likely_done_s)

    def test_a_floor_must_come_back_between_pizzas(self) -> None:
        told = plan(request("neapolitan", hearth=FIRES["flame_oven"], surface=STONE))
        spec = bake_of(request("neapolitan", hearth=FIRES["flame_oven"], surface=STONE), told.controls)
        many = row(RowInput(bake=spec, count=3, gap_min=0.0)).launches
        self.assertLess(many[1].deck_at_launch_c, many[0].deck_at_launch_c - 15)
        waited = row(RowInput(bake=spec, count=3)).launches
        self.assertGreater(waited[2].deck_at_launch_c, many[2].deck_at_launch_c)


class FlipAndLateCheese(TestCase):
    @settings(max_examples=25)
    @given(at=st.integers(15, 200), surface=st.sampled_from([STONE, GRATE]), shape=st.sampled_from(["hand", "rolled"]))
    def test_nothing_is_lost_by_turning_a_base_over(self, at: int, surface: Surface, shape: str) -> None:
        controls = Controls(setpoint_c=300, level=1, preheat_min=20, flip_s=float(at)) if surface is GRATE else None
        question = request("grilled", hearth=FIRES["gas_grill"], surface=surface)
        spec = (
            bake_of(question, controls)
            if controls
            else bake_of(question, Controls(setpoint_c=300, level=1, preheat_min=20)).model_copy(
                update={"events": (Event(at_s=at, do="flip"), Event(at_s=at, do="add_topping"))}
            )
        )
        spec = spec.model_copy(update={"dough": spec.dough.model_copy(update={"shape": shape})})
        bake = Bake(spec)
        bake.advance_to(300)
        trace = bake.trace()
        self.assertLess(max(trace.energy_closure, trace.water_closure), 1e-9)
        told = series(trace)
        before, after = told.t_s < at, told.t_s > at + 1
        self.assertGreater(told.base_l[after][0], told.base_l[before][-1] - 8.0)

    def test_flipping_at_once_is_as_good_as_not(self) -> None:
        """Both faces are raw dough: turned over after a moment the base bakes on almost alike."""
        plain = bake_on(toppings=Toppings(mass_g=0))
        flipped = plain.model_copy(update={"events": (Event(at_s=1, do="flip"),)})
        runs = []
        for spec in (plain, flipped):
            bake = Bake(spec)
            bake.advance_to(300)
            runs.append(series(bake.trace()).base_l[-1])
        self.assertAlmostEqual(runs[0], runs[1], delta=2.0)

    def test_late_cheese_is_paler_and_has_melted_at_the_pull(self) -> None:
        question = request()
        search = Search(question)
        controls = Controls(setpoint_c=275, level=4, preheat_min=50)
        at_once = search.try_controls(controls, whole=True)
        late = search.try_controls(controls.model_copy(update={"cheese_s": 200.0}), whole=True)
        self.assertGreater(late.cheese_l, at_once.cheese_l)
        self.assertGreater(late.done.t_s, 205)
        bake = Bake(bake_of(question, late.controls))
        bake.advance_to(late.done.t_s)
        self.assertGreater(series(bake.trace()).top_c[-1], MELTED_C)

    def test_a_base_is_flipped_bare_and_topped_once(self) -> None:
        for events, words in (
            ([Event(at_s=60, do="flip")], "flipped bare"),
            ([Event(at_s=60, do="add_topping"), Event(at_s=80, do="add_cheese")], "once"),
        ):
            with self.assertRaisesRegex(ValidationError, words):
                bake_on(events=tuple(events))
