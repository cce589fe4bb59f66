"""The board and what would help."""

from unittest import TestCase

from mattone_engine.bake.help import help_most
from mattone_engine.bake.match import MatchInput, MatchRig, match, portion
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.verdict import verdict
from mattone_engine.styles import style, styles
from mattone_engine.things import Pan, Surface
from mattone_engine.things.capabilities import materials
from mattone_engine.things.catalogue import catalogue
from mattone_engine.things.fit import Extent, Fits, Room, fit, mass_kg
from mattone_engine.things.hearth import HearthLimits

OVEN = HearthLimits(max_setpoint_c=275, dial_error_k=-14)
STEEL = MatchRig(key="steel", hearth=OVEN, surface=Surface(kind="steel", thickness_mm=10))
STONE = MatchRig(key="stone", hearth=OVEN, surface=Surface(kind="stone", thickness_mm=15))
TRAY = MatchRig(key="tray", hearth=OVEN, pan=Pan(kind="thin_tray", thickness_mm=0.8))
IRON = MatchRig(key="iron", hearth=OVEN, pan=Pan(kind="cast_iron", thickness_mm=5), pan_area_cm2=531)
ORDER = ("made for it", "works", "a stretch", "not here")


class TheBoard(TestCase):
    def test_cells_are_where_style_and_rig_go_together(self) -> None:
        told = match(MatchInput(rigs=(STEEL, TRAY, IRON)))
        shaped = {"neapolitan", "home_oven_round", "new_york", "thin_crisp", "family_tray", "gluten_free_round"}
        in_pans = {"cast_iron_pan", "tall_square_pan", "grandma", "sicilian", "roman_tray", "focaccia"}
        found = {(cell.style, cell.rig) for cell in told.cells}
        self.assertEqual(found, {(key, rig) for key in shaped for rig in ("steel", "tray")} | {(key, rig) for key in in_pans for rig in ("iron", "tray")})
        # What is grilled wants a grill; everything else there is stands somewhere.
        self.assertEqual(set(told.styles) - {key for key, _ in found}, {"grilled"})

    def test_steel_before_stone_before_tray_for_a_round(self) -> None:
        told = {c.rig: c for c in match(MatchInput(rigs=(STEEL, STONE, TRAY), styles=("home_oven_round",))).cells}
        words = [ORDER.index(told[rig].word) for rig in ("steel", "stone", "tray")]
        self.assertEqual(words, sorted(words))
        self.assertLess(told["steel"].likely_done_s, told["stone"].likely_done_s)
        self.assertLess(told["stone"].likely_done_s, told["tray"].likely_done_s)

    def test_a_home_oven_is_no_place_for_a_minute_bake(self) -> None:
        cell = match(MatchInput(rigs=(STEEL,), styles=("neapolitan",))).cells[0]
        self.assertEqual(cell.word, "not here")

    def test_a_cell_says_much_what_the_plan_will_say(self) -> None:
        """The quick search is at most one word kinder or harsher, and within a fifth in time."""
        for key, rig in (("home_oven_round", STEEL), ("new_york", STONE), ("family_tray", TRAY), ("cast_iron_pan", IRON)):
            cell = match(MatchInput(rigs=(rig,), styles=(key,))).cells[0]  # type: ignore[arg-type]
            dough, toppings = portion(style(key), rig.pan_area_cm2)
            full = plan(PlanInput(hearth=OVEN, surface=rig.surface, pan=rig.pan, dough=dough, toppings=toppings, style=key))  # type: ignore[arg-type]
            with self.subTest(key):
                self.assertLessEqual(abs(ORDER.index(cell.word) - ORDER.index(full.word)), 1)
                self.assertAlmostEqual(cell.likely_done_s / full.result.likely_done_s, 1.0, delta=0.2)

    def test_a_pan_is_filled_at_the_styles_loading(self) -> None:
        for key, known in styles().items():
            dough, toppings = portion(known, 900.0)
            if known.shape == "pan":
                self.assertAlmostEqual(dough.mass_g / dough.area_cm2, known.mass_g / known.area_cm2, places=3, msg=key)
                self.assertAlmostEqual(toppings.mass_g / dough.area_cm2, known.topping_g_cm2, delta=0.01)
            else:
                self.assertEqual(dough.mass_g, known.mass_g)


class WhatWouldHelp(TestCase):
    def test_a_steel_helps_who_has_only_a_tray(self) -> None:
        told = help_most(MatchInput(rigs=(TRAY,), styles=("home_oven_round",)))
        self.assertIn("steel", told.helps[0].what)
        self.assertTrue(any("made for it" in lift for lift in told.helps[0].lifts))
        self.assertEqual([h.gain for h in told.helps], sorted((h.gain for h in told.helps), reverse=True))

    def test_nobody_is_told_to_buy_what_they_have(self) -> None:
        told = help_most(MatchInput(rigs=(STEEL, IRON), styles=("home_oven_round", "cast_iron_pan")))
        self.assertFalse({"a 10 mm steel", "a 26 cm cast-iron pan"} & {h.what for h in told.helps})

    def test_a_style_the_kitchen_cannot_bake_asks_for_a_pan(self) -> None:
        told = help_most(MatchInput(rigs=(STEEL,), styles=("focaccia",)))
        self.assertIn("pan", told.helps[0].what)

    def test_verdicts_grow_worse_with_the_score(self) -> None:
        found = [ORDER.index(verdict(score)) for score in (0.0, 0.3, 1.0, 3.0, 9.0)]
        self.assertEqual(found, sorted(found))


class Fit(TestCase):
    def test_what_does_not_fit_is_said(self) -> None:
        self.assertIs(fit(Extent("stone", 15, 40, 40), Room("countertop_oven", "small oven")).how, Fits.NOT)
        self.assertIs(fit(Extent("stone", 15, 50, 30), Room("electric_oven", "oven")).how, Fits.NOT)
        self.assertIs(fit(Extent("stone", 15, 38, 34), Room("electric_oven", "oven")).how, Fits.WELL)
        self.assertIs(fit(Extent("stone", 15, 40, 40), Room("electric_oven", "oven", width_cm=36.0, depth_cm=36.0)).how, Fits.NOT)
        self.assertIn("too heavy", fit(Extent("steel", 16, 36, 36), Room("electric_oven", "oven", rack_kg=10.0)).text)
        self.assertIn("kg", fit(Extent("steel", 16, 40, 36), Room("electric_oven", "oven")).text)

    def test_a_steel_weighs_what_steel_weighs(self) -> None:
        self.assertAlmostEqual(mass_kg(Extent("steel", 10, 36, 36)), 0.01 * 0.36 * 0.36 * materials()["steel"].density, places=6)

    def test_the_catalogue_is_sound_and_fits_the_usual_oven(self) -> None:
        rows = catalogue()
        for row in rows["hearth"]:
            HearthLimits.model_validate({key: value for key, value in row.items() if key != "name"})
        for noun, thing in (("surface", Surface), ("pan", Pan)):
            for row in rows[noun]:
                thing.model_validate({"kind": row["kind"], "thickness_mm": row["thickness_mm"]})
                extent = Extent(row["kind"], row["thickness_mm"], row["width_cm"], row["depth_cm"])
                self.assertIsNot(fit(extent, Room("electric_oven", "oven")).how, Fits.NOT)
