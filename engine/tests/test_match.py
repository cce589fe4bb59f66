"""The board and what would help."""

import re
from unittest import TestCase

from mattone_engine.bake.help import help_most, standing
from mattone_engine.bake.match import MatchInput, MatchRig, best_of, match, plan_input, portion
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.search import Search
from mattone_engine.bake.things_to_own import decks_to_own, pans_to_own
from mattone_engine.bake.verdict import verdict
from mattone_engine.styles import style, styles
from mattone_engine.things import Pan, Surface
from mattone_engine.things.capabilities import materials
from mattone_engine.things.catalogue import catalogue
from mattone_engine.things.fit import Extent, Fits, Room, fit, mass_kg
from mattone_engine.things.hearth import HearthLimits
from mattone_engine.things.knowledge import GENERAL, ShareBelief
from mattone_engine.things.rig import own_surface

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
        # By the same controls.
        steel, stone, tray = (Search(plan_input(style("home_oven_round"), rig, 0.0)).at(275.0, 3).done.t_s for rig in (STEEL, STONE, TRAY))
        self.assertLess(steel, stone)
        self.assertLess(stone, tray)

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
            if known.fills_its_pan:
                self.assertAlmostEqual(dough.mass_g / dough.area_cm2, known.mass_g / known.area_cm2, places=3, msg=key)
                self.assertAlmostEqual(toppings.mass_g / dough.area_cm2, known.topping_g_cm2, delta=0.01)
            else:
                self.assertEqual(dough.mass_g, known.mass_g)


class WhatWouldHelp(TestCase):
    def test_a_deck_helps_who_has_only_a_tray(self) -> None:
        told = help_most(MatchInput(rigs=(TRAY,), styles=("new_york",)))
        self.assertRegex(told.helps[0].what, "steel|stone")
        self.assertTrue(any("made for it" in lift for lift in told.helps[0].lifts))
        self.assertEqual([h.gain for h in told.helps], sorted((h.gain for h in told.helps), reverse=True))

    def test_nobody_is_told_to_buy_what_they_have_or_its_like(self) -> None:
        told = help_most(MatchInput(rigs=(STEEL, IRON), styles=("home_oven_round", "cast_iron_pan")))
        self.assertFalse({"a 10 mm steel", "a 6 mm steel", "a 26 cm cast-iron pan"} & {h.what for h in told.helps})
        for owned in (STEEL, STONE):
            assert owned.surface is not None
            for what, deck in decks_to_own((owned,)):
                self.assertFalse(deck.kind == owned.surface.kind and 0.5 < deck.thickness_mm / owned.surface.thickness_mm < 2.0, what)
        self.assertNotIn("cast_iron", [pan.kind for _, pan, _ in pans_to_own((IRON,))])

    def test_a_style_the_kitchen_cannot_bake_asks_for_a_pan(self) -> None:
        told = help_most(MatchInput(rigs=(STEEL,), styles=("focaccia",)))
        self.assertRegex(told.helps[0].what, "pan|sheet|tray")

    def test_a_second_deck_that_is_there_is_used_not_bought(self) -> None:
        whats = [h.what for h in help_most(MatchInput(rigs=(STEEL, STONE), styles=("thin_crisp", "new_york", "gluten_free_round"))).helps]
        self.assertFalse([what for what in whats if "second stone" in what])

    def test_no_dough_leaves_its_styles_band(self) -> None:
        told = help_most(MatchInput(rigs=(STEEL, TRAY, IRON)))
        for h in told.helps:
            found = re.fullmatch(r"([\d.]+) % more (water|sugar|oil) in the dough", h.what)
            if found is None:
                continue
            name = {"water": "hydration_pct", "sugar": "sugar_pct", "oil": "oil_pct"}[found[2]]
            takes = [k.key for k in styles().values() if getattr(k, name) + float(found[1]) <= getattr(k.band, name)[1] + 1e-6]
            self.assertTrue(takes, h.what)

    def test_it_speaks_where_there_is_only_a_fire_a_pan_or_a_bare_grate(self) -> None:
        flame = HearthLimits(kind="flame_oven", max_setpoint_c=430, levels=1, has_fan=False)
        grill = HearthLimits(kind="gas_grill", max_setpoint_c=330, levels=1, has_fan=False)
        dark = Pan(kind="dark_aluminium", thickness_mm=1.6, wall_cm=6.0)
        for name, rig, key, word in (
            ("flame only", MatchRig(key="f", hearth=flame, surface=own_surface(flame)), "new_york", "electric oven"),
            ("a grate without a stone", MatchRig(key="g", hearth=grill, surface=own_surface(grill)), "new_york", "stone"),
            ("pans only", MatchRig(key="p", hearth=OVEN, pan=dark, pan_area_cm2=816), "tall_square_pan", "stone"),
        ):
            told = help_most(MatchInput(rigs=(rig,), styles=(key,)))
            with self.subTest(name, helps=told.helps):
                self.assertTrue(any(word in h.what for h in told.helps))

    def test_what_bakes_taught_of_an_oven_holds_for_what_would_be_new_in_it(self) -> None:
        """A dough known to brown slowly is baked by that on a deck to own, too: that nothing is known of a new deck is no gain of it."""
        known, slow = styles()["new_york"], GENERAL.model_copy(update={"browning_ln": ShareBelief(mean=-0.45, spread=0.05)})
        tray = TRAY.model_copy(update={"knowledge": slow})

        def worth(rig: MatchRig) -> float:
            return standing(best_of(plan_input(known, rig, 0.0))[0]).worth

        steel = MatchRig(key="new", hearth=TRAY.hearth, surface=Surface(kind="steel", thickness_mm=10), knowledge=slow)
        gains = {one.what: one.gain for one in help_most(MatchInput(rigs=(tray,), styles=(known.key,))).helps}
        self.assertAlmostEqual(gains["a 10 mm steel"], worth(tray) - worth(steel), delta=0.01)
        self.assertNotAlmostEqual(worth(steel), worth(steel.model_copy(update={"knowledge": GENERAL})), delta=0.1)

    def test_verdicts_grow_worse_with_the_score(self) -> None:
        found = [ORDER.index(verdict(score)) for score in (0.0, 0.3, 1.0, 3.0, 9.0)]
        self.assertEqual(found, sorted(found))


class Fit(TestCase):
    def test_what_does_not_fit_is_said(self) -> None:
        self.assertIs(fit(Extent("stone", 15, 40, 40), Room("countertop_oven", "small oven", 30.0, 26.0)).how, Fits.NOT)
        self.assertIs(fit(Extent("stone", 15, 50, 30), Room("electric_oven", "oven", 45.0, 40.0)).how, Fits.NOT)
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
