"""Schools of baking and what holds them: the element before launch, paper, hot trays, two decks, fires, rows, weight."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.card import card
from mattone_engine.bake.cautions import cautions, deck_kg, rack_kg
from mattone_engine.bake.controls import Controls, Move, Span
from mattone_engine.bake.edge import as_the_floor
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.limits import limits_of, refuse_controls
from mattone_engine.bake.match import portion
from mattone_engine.bake.methods import method_of, possible_methods
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import RowInput, row
from mattone_engine.bake.search import Search
from mattone_engine.bake.simulate import simulate
from mattone_engine.errors import InputError
from mattone_engine.heat.preheat import preheat
from mattone_engine.heat.run import Bake
from mattone_engine.styles import style, styles
from mattone_engine.things import Event, Hearth, HearthLimits, Overhead, Pan, SimulateInput, Surface, Target
from mattone_engine.things.rig import Rig, Verdict
from mattone_engine.things.rig import allowed as rig_verdict
from pydantic import ValidationError
from rigs import bake_on

STEEL, STONE = Surface(kind="steel", thickness_mm=10), Surface(kind="stone", thickness_mm=15)
OVEN = HearthLimits(max_setpoint_c=275, top_element_kw=2.5)
TRAY = Pan(kind="thin_tray", thickness_mm=0.8)


def asked(key: str = "home_oven_round", **changes: Any) -> PlanInput:
    dough, toppings = portion(style(key), 816.0)
    given: dict[str, Any] = {"hearth": OVEN, "surface": STEEL, "style": key, "dough": dough, "toppings": toppings}
    return PlanInput(**(given | changes))


def refusal(request: PlanInput, **controls: Any) -> str:
    try:
        refuse_controls(request, limits_of(request), Controls(**({"setpoint_c": 250, "level": 3, "preheat_min": 45} | controls)))
    except ValueError as told:
        return str(told)
    return ""


class TopElement(TestCase):
    def heated(self, on_s: float, **hearth: Any) -> float:
        lit = (Event(at_s=on_s, do="top_element_on"),) if on_s < 0 else ()
        return float(preheat(Hearth(**({"setpoint_c": 275, "level": 4, "top_element_kw": 2.5} | hearth)), STEEL, 45, events=lit).deck_c[-1])

    def test_its_sensor_stops_it(self) -> None:
        """Lit twenty minutes early it drove the deck to 390 C and more; its stop is 25 K over the end of the dial."""
        self.assertLess(self.heated(-1200), 305.0)
        self.assertGreater(self.heated(-1200, top_stop_dial_c=450), 380.0)
        air = preheat(Hearth(setpoint_c=275, level=4, top_element_kw=3.5), STEEL, 60, events=(Event(at_s=-2400, do="top_element_on"),)).air_c
        self.assertLess(float(air[-60:].max()), 275 + 25 + 12)

    @settings(max_examples=25)
    @given(st.floats(-1200, -60), st.floats(0, 60), st.floats(1.0, 3.5), st.floats(-20, 20))
    def test_a_higher_stop_is_never_cooler_and_lit_is_never_cooler_than_unlit(self, on_s: float, more_k: float, kw: float, error_k: float) -> None:
        low, high = (self.heated(on_s, top_element_kw=kw, dial_error_k=error_k, top_stop_dial_c=285 + by) for by in (0.0, more_k))
        self.assertGreaterEqual(high, low - 0.3)
        self.assertGreater(low, self.heated(0, dial_error_k=error_k) - 3.0)

    def test_it_is_tried_lit_before_launch(self) -> None:
        search = Search(asked())
        search.run()
        before = [c for c in search.ranked() if c.controls.top_element is not None and c.controls.top_element.on_s < 0.0]
        self.assertGreaterEqual(len(before), 3)
        plain = min((c for c in search.ranked() if c.controls.top_element is None), key=lambda c: c.score)
        # Its deck is hotter and its bake shorter: what the school is for.
        self.assertGreater(max(c.deck_c for c in before), plain.deck_c + 15.0)
        self.assertLess(min(c.done.t_s for c in before), 0.8 * plain.done.t_s)

    def test_a_row_lights_it_again_before_each(self) -> None:
        lit = Controls(setpoint_c=275, level=4, preheat_min=45, top_element=Span(on_s=-300, off_s=60))
        launches = row(RowInput(bake=bake_of(asked(), lit), count=3, gap_min=8)).launches
        unlit = row(RowInput(bake=bake_of(asked(), lit.model_copy(update={"top_element": Span(on_s=0, off_s=60)})), count=3, gap_min=8)).launches
        for at in (1, 2):
            self.assertGreater(launches[at].deck_at_launch_c, unlit[at].deck_at_launch_c + 10.0)


class PaperAndCoating(TestCase):
    @given(st.floats(150, 260), st.floats(-30, 30))
    def test_paper_stands_the_air_as_it_really_is(self, limit_c: float, error_k: float) -> None:
        hearth = OVEN.model_copy(update={"dial_error_k": error_k})
        hottest = limits_of(asked("family_tray", hearth=hearth, surface=None, pan=TRAY, parchment=True, parchment_limit_c=limit_c)).hottest_c
        self.assertLessEqual(hottest + error_k, limit_c + 1e-6)
        self.assertTrue(hottest == OVEN.max_setpoint_c or abs(hottest + error_k - limit_c) < 1e-6)

    def test_the_cook_tells_the_papers_limit(self) -> None:
        paper = asked("family_tray", surface=None, pan=TRAY, parchment=True)
        self.assertIn("{215 C}", refusal(paper, setpoint_c=230))
        self.assertEqual(refusal(paper.model_copy(update={"parchment_limit_c": 240.0}), setpoint_c=230), "")
        told = plan(paper)
        self.assertLessEqual(told.controls.setpoint_c, 215.0)
        self.assertIn("{215 C}", " ".join(c.text for c in told.cautions))

    def test_paper_goes_neither_beside_a_fire_nor_onto_a_deck_that_is_too_hot(self) -> None:
        with self.assertRaisesRegex(ValidationError, "paper burns beside a fire"):
            asked("neapolitan", hearth=HearthLimits(kind="flame_oven", max_setpoint_c=430, levels=1), surface=STONE, parchment=True)
        with self.assertRaisesRegex(ValidationError, "printed limit"):
            asked(surface=STEEL.model_copy(update={"deck_c": 254.0}), parchment=True)

    def test_a_crust_that_paper_keeps_pale_says_so_at_the_paper(self) -> None:
        with self.assertRaises(InputError) as told:
            plan(asked("new_york", surface=STONE, parchment=True, parchment_limit_c=150.0, target=Target(base="brown")))
        self.assertIn(told.exception.path, ("parchment", "hearth.max_setpoint_c"))

    def test_a_coating_counts_the_dials_error_and_is_never_heated_empty(self) -> None:
        hot = OVEN.model_copy(update={"dial_error_k": 12.0})
        coated = asked("family_tray", hearth=hot, surface=None, pan=TRAY, coating_limit_c=230.0)
        self.assertEqual(limits_of(coated).hottest_c, 218.0)
        self.assertIn("heated empty", refusal(coated, setpoint_c=210, hot_pan=True))
        self.assertNotIn("preheated tray", possible_methods(coated, limits_of(coated)))


class HotTray(TestCase):
    def test_a_bare_tray_may_heat_empty_and_bakes_the_base_sooner(self) -> None:
        request = asked("family_tray", surface=None, pan=TRAY)
        controls = Controls(setpoint_c=250, level=3, preheat_min=20)
        cold, hot = (simulate(bake_of(request, controls.model_copy(update={"hot_pan": on}))) for on in (False, True))
        at = 300.0
        base = [float(np.interp(at, told.traces.t_s, told.traces.base_l)) for told in (cold, hot)]
        self.assertLess(base[1], base[0])
        self.assertIn("preheated tray", possible_methods(request, limits_of(request)))
        told = plan(request.model_copy(update={"methods": ("preheated tray",)}))
        self.assertTrue(told.controls.hot_pan)
        steps = " / ".join(step.text for step in told.card)
        self.assertIn("empty", steps)
        self.assertIn("Base onto the hot tray", steps)

    def test_dough_that_rises_in_its_pan_does_not_go_into_a_hot_one(self) -> None:
        iron = asked("cast_iron_pan", surface=None, pan=Pan(kind="cast_iron", thickness_mm=5))
        self.assertIn("hot_pan", refusal(iron, hot_pan=True))


class TwoDecks(TestCase):
    def request(self, second: Surface = STEEL) -> PlanInput:
        return asked(surface=STONE, spares=(second,))

    def controls(self, second: Surface = STEEL, move: Move | None = None) -> Controls:
        over = Overhead(kind=second.kind, thickness_mm=second.thickness_mm, level=5)
        return Controls(setpoint_c=275, level=2, preheat_min=60, overhead=over, move=move)

    def test_the_pizza_moves_between_two_hot_decks_and_no_deck_does(self) -> None:
        self.assertEqual(refusal(self.request(), **dict(self.controls(move=Move(at_s=200, level=5)))), "")
        self.assertIn("a hot deck stays", refusal(self.request(), **dict(self.controls(move=Move(at_s=200, level=4)))))
        self.assertEqual(method_of(self.request(), self.controls(move=Move(at_s=200, level=5))), "two decks")
        steps = card(self.request(), self.controls(move=Move(at_s=200, level=5)), simulate(bake_of(self.request(), self.controls())), [])
        self.assertIn("Peel it onto the second deck, level 5", [step.text for step in steps])

    def test_heat_and_water_close_over_the_change_and_a_stop_does_not_matter(self) -> None:
        for second in (STEEL, STONE, Surface(kind="firebrick", thickness_mm=30)):
            spec = bake_of(self.request(second), self.controls(second, Move(at_s=200, level=5)))
            whole = Bake(spec)
            whole.advance_to(400)
            parts = Bake(spec)
            for until in (77.0, 199.0, 200.0, 260.0, 400.0):
                parts.advance_to(until)
            told = whole.trace()
            with self.subTest(second.kind):
                self.assertLess(told.energy_closure, 1e-9)
                self.assertLess(told.water_closure, 1e-9)
                self.assertEqual(float(told.rows[-1, 0, 0]), float(parts.trace().rows[-1, 0, 0]))

    def test_a_fresh_hot_deck_browns_the_base_faster_than_staying(self) -> None:
        stays, goes = (simulate(bake_of(self.request(), self.controls(move=move))) for move in (None, Move(at_s=150, level=5)))
        base = [float(np.interp(300.0, told.traces.t_s, told.traces.base_l)) for told in (stays, goes)]
        self.assertLess(base[1], base[0] - 1.0)

    def test_the_search_tries_it(self) -> None:
        search = Search(self.request())
        search.run()
        self.assertTrue(any(c.controls.overhead is not None and c.controls.move is not None for c in search.ranked()))

    def test_a_pan_does_not_move_onto_it(self) -> None:
        over = Overhead(kind="steel", thickness_mm=10, level=4)
        with self.assertRaisesRegex(ValidationError, "second deck"):
            SimulateInput(hearth=Hearth(level=2), pan=TRAY, overhead=over, events=(Event(at_s=60, do="move", level=4),))


class Fires(TestCase):
    def test_a_fire_that_holds_no_face_worth_baking_on_is_refused(self) -> None:
        weak = Rig(hearth=HearthLimits(kind="gas_grill", max_setpoint_c=232, levels=1, has_fan=False), surface=STONE)
        # Nor is it on the board, from which it would be opened.
        self.assertIs(rig_verdict(style("grilled"), weak), Verdict.FIRE_TOO_LOW)
        with self.assertRaisesRegex(ValidationError, "how hot does its floor or grate get"):
            asked("grilled", hearth=HearthLimits(kind="gas_grill", max_setpoint_c=232, levels=1, has_fan=False), surface=STONE)

    @settings(max_examples=60)
    @given(st.sampled_from(["gas_grill", "charcoal_grill", "flame_oven"]), st.floats(0, 1), st.floats(290, 420))
    def test_a_launch_is_one_the_fire_can_hold(self, kind: str, share: float, hottest_c: float) -> None:
        hearth = HearthLimits(kind=kind, max_setpoint_c=hottest_c, levels=1, has_fan=False)  # type: ignore[arg-type]
        fire = hearth.fire
        assert fire is not None
        over_k = fire.dome_low_k + share * (fire.dome_high_k - fire.dome_low_k)
        held_c = fire.held_c(hottest_c, over_k)
        self.assertLessEqual(held_c, hottest_c)
        request = asked("grilled" if fire.hooded else "neapolitan", hearth=hearth, surface=STONE)
        spec = bake_of(request, Controls(setpoint_c=max(100.0, held_c), level=1, preheat_min=30, dome_over_k=over_k))
        assert spec.hearth.floor_c is not None
        self.assertLessEqual(spec.hearth.floor_c, hottest_c + 1.0)
        if held_c + 5.0 <= hottest_c:
            self.assertIn("holds a face", refusal(request, setpoint_c=held_c + 2.0, level=1, dome_over_k=over_k))

    def test_the_planner_keeps_to_it(self) -> None:
        for key, hottest_c in (("grilled", 335), ("new_york", 335), ("grilled", 262), ("new_york", 251)):
            grill = HearthLimits(kind="gas_grill", max_setpoint_c=hottest_c, levels=1, has_fan=False)
            request = asked(key, hearth=grill, surface=STONE)
            try:
                told = plan(request)
            except InputError as refused:
                self.assertIn("wants", refused.message)
                continue
            refuse_controls(request, limits_of(request), told.controls)
            self.assertIsNotNone(told.deck_back_min, "the wait for the deck is never unknown")


class Rows(TestCase):
    def test_the_wait_for_a_deck_is_never_unknown(self) -> None:
        for surface, top in ((STEEL, None), (STONE, Span(on_s=-300, off_s=60)), (Surface(kind="firebrick", thickness_mm=30), Span(on_s=-600, off_s=0))):
            request = asked(surface=surface)
            told = plan(request.model_copy(update={"controls": Controls(setpoint_c=275, level=4, preheat_min=60, top_element=top)}))
            with self.subTest(surface.kind, top=top):
                self.assertIsNotNone(told.deck_back_min)
                assert told.deck_back_min is not None
                self.assertTrue(0.0 <= told.deck_back_min <= 60.0)

    def test_one_proofed_pan_is_one_pan_and_trays_may_go_together(self) -> None:
        iron = SimulateInput(hearth=Hearth(level=2), pan=Pan(kind="cast_iron", thickness_mm=5), style="cast_iron_pan", dough=style("cast_iron_pan").dough())
        self.assertIn("One pan is one pizza", row(RowInput(bake=iron, count=2, gap_min=5)).say)
        tray = SimulateInput(hearth=Hearth(level=2), pan=TRAY)
        self.assertIn("two levels apart", row(RowInput(bake=tray, count=2, gap_min=5)).say)
        self.assertEqual(row(RowInput(bake=bake_on(), count=2, gap_min=5)).say, "")


class WhatIsOwned(TestCase):
    def test_a_shield_needs_a_sheet(self) -> None:
        bare = asked(has_sheet=False)
        self.assertIn("no empty sheet", refusal(bare, shield=Span(on_s=100, off_s=300)))
        self.assertNotIn("shield", possible_methods(bare, limits_of(bare)))
        self.assertIn("shield", possible_methods(asked(), limits_of(asked())))

    def test_weight_is_of_all_on_the_rack_by_its_real_size(self) -> None:
        small, large = (STEEL.model_copy(update={"area_cm2": area}) for area in (400.0, 1600.0))
        controls = Controls(setpoint_c=250, level=2, preheat_min=45)
        light, heavy = (rack_kg(asked(surface=deck), controls) for deck in (small, large))
        self.assertAlmostEqual(heavy - light, deck_kg("steel", 10.0, 1200.0), places=6)
        self.assertNotIn("weight", [c.key for c in cautions(asked(surface=small), controls)])
        self.assertIn("weight", [c.key for c in cautions(asked(surface=large), controls)])
        iron = asked("cast_iron_pan", surface=large, pan=Pan(kind="cast_iron", thickness_mm=5))
        self.assertGreater(rack_kg(iron, controls), heavy + 2.0)

    def test_no_cold_cheese_where_the_edge_should_caramelise(self) -> None:
        for key in styles():
            if style(key).made.caramelised:
                request = asked(key, surface=STONE, pan=Pan(kind="dark_aluminium", thickness_mm=1.6, wall_cm=6.0))
                search = Search(request)
                search.run()
                self.assertEqual({c.controls.cheese for c in search.ranked()}, {"room"}, key)


class FriedEdge(TestCase):
    def told(self, *, wall_cm: float = 6.0, level: int = 2, setpoint_c: float = 250.0, hob: bool = False, surface: Surface | None = None) -> Any:
        pan = Pan(kind="cast_iron", thickness_mm=4, wall_cm=wall_cm)
        events = (Event(at_s=-120, do="hob_on", power_kw=2.0),) if hob else ()
        known = style("cast_iron_pan")
        return simulate(
            SimulateInput(
                hearth=Hearth(setpoint_c=setpoint_c, level=level), surface=surface, pan=pan, dough=known.dough(), toppings=known.toppings(),
                style="cast_iron_pan", events=events,
            )
        )  # fmt: skip

    def test_on_a_rack_the_edge_is_as_the_base_and_without_a_wall_there_is_none(self) -> None:
        rack = self.told()
        self.assertEqual(rack.traces.edge_l, rack.traces.base_l)
        self.assertEqual(rack.at_done.edge_l, rack.at_done.base_l)
        self.assertEqual((self.told(wall_cm=0.5).traces.edge_l, self.told(wall_cm=0.5).at_done.edge_l), ([], None))
        self.assertEqual(simulate(bake_on()).traces.edge_l, [])

    def test_deck_and_burner_reach_it_as_far_as_the_metal_conducts(self) -> None:
        rack, hob = self.told(), self.told(hob=True)
        for t, base, edge in zip(hob.traces.t_s, hob.traces.base_l, hob.traces.edge_l, strict=True):
            if 0.0 <= t <= rack.traces.t_s[-1]:
                alone = float(np.interp(t, rack.traces.t_s, rack.traces.base_l))
                self.assertGreaterEqual(edge, min(base, alone) - 1.0)
                self.assertLessEqual(edge, max(base, alone) + 1.0)

    @given(st.sampled_from(["cast_iron", "dark_aluminium", "blue_steel", "bright_aluminium"]), st.floats(0.5, 8), st.floats(1, 12))
    def test_a_fin_is_its_root_where_it_is_short_and_itself_where_it_is_long(self, kind: Any, thick_mm: float, wall_cm: float) -> None:
        known = style("cast_iron_pan")

        def share(mm: float, cm: float, mass: float = 1.0) -> float:
            dough = known.dough().model_copy(update={"mass_g": known.mass_g * mass})
            return as_the_floor(SimulateInput(hearth=Hearth(level=2), pan=Pan(kind=kind, thickness_mm=mm, wall_cm=cm), dough=dough, style=known.key))

        self.assertTrue(0.0 < share(thick_mm, wall_cm) <= 1.0)
        self.assertGreaterEqual(share(thick_mm + 1.0, wall_cm), share(thick_mm, wall_cm))
        self.assertLessEqual(share(thick_mm, wall_cm + 1.0), share(thick_mm, wall_cm) + 1e-12)
        # A wall higher than the dough changes nothing for the dough.
        self.assertAlmostEqual(share(thick_mm, 12.0), share(thick_mm, 20.0), places=12)

    def test_a_hotter_oven_fries_it_darker(self) -> None:
        at = 900.0
        cool, hot = (self.told(setpoint_c=dial, surface=STONE) for dial in (220.0, 270.0))
        self.assertLess(*(float(np.interp(at, told.traces.t_s, told.traces.edge_l)) for told in (hot, cool)))

    def test_the_card_tells_it(self) -> None:
        request = asked("tall_square_pan", surface=STONE, pan=Pan(kind="dark_aluminium", thickness_mm=1.6, wall_cm=6.0))
        told = plan(request)
        pull = next(step.text for step in told.card if step.kind == "pull")
        self.assertIn(f"edge {told.result.at_done.edge_word}", pull)
