"""What goes with what: the one rule, asked by board, plan and kitchen."""

from __future__ import annotations

import math
from itertools import product
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.match import MatchInput, MatchRig, makes_sense, match, portion
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.days.by_hand import by_hand, shape_task
from mattone_engine.styles import style, styles
from mattone_engine.things import HearthLimits, Pan, Surface
from mattone_engine.things.capabilities import kinds, materials
from mattone_engine.things.dough import LARGEST_CM2
from mattone_engine.things.fit import Extent, Fits, Room, fit
from mattone_engine.things.rig import Reach, Rig, Verdict, allowed, chosen, own_surface, stands, takes_second_deck
from pydantic import ValidationError

KINDS = kinds()
OVENS = [key for key, row in KINDS.hearths.items() if row.heat == "dial"]
FIRES = [key for key, row in KINDS.hearths.items() if row.heat == "fire"]


def hearth(kind: str, **more: float) -> HearthLimits:
    fire = KINDS.hearths[kind].fire
    return HearthLimits.model_validate({"kind": kind, "max_setpoint_c": fire.hottest_c if fire else 275.0} | more)


class WhatStands(TestCase):
    def test_an_oven_takes_every_deck_and_pan_and_pans_with_walls_on_decks(self) -> None:
        for kind, surface, pan in product(OVENS, KINDS.surfaces, KINDS.pans):
            oven = hearth(kind)
            if KINDS.surfaces[surface].owned:
                self.assertIs(stands(oven, Surface(kind=surface), None), Verdict.GOES)
                both = stands(oven, Surface(kind=surface), Pan(kind=pan)) is Verdict.GOES
                self.assertEqual(both, surface != "upturned_tray" and pan not in ("thin_tray", "perforated"))
            self.assertIs(stands(oven, None, Pan(kind=pan)), Verdict.GOES)

    def test_over_a_fire_only_decks_and_bare_iron_and_into_a_flame_oven_nothing(self) -> None:
        for kind, pan in product(FIRES, KINDS.pans):
            fire, iron = hearth(kind), pan == "cast_iron"
            grill = kind != "flame_oven"
            self.assertEqual(stands(fire, None, Pan(kind=pan)) is Verdict.GOES, grill and iron)
            self.assertIsNot(stands(fire, None, Pan(kind=pan), coated=True), Verdict.GOES)
            self.assertEqual(stands(fire, Surface(kind="stone"), None) is Verdict.GOES, grill)
            self.assertIsNot(stands(fire, Surface(kind="upturned_tray"), None), Verdict.GOES)
            self.assertIs(stands(fire, None, None), Verdict.GOES)
            self.assertIsNotNone(own_surface(fire))

    def test_whatever_is_refused_says_why(self) -> None:
        for verdict in Verdict:
            self.assertEqual(verdict.text == "", verdict is Verdict.GOES)
            self.assertTrue(verdict.text == "" or verdict.text.endswith("."), verdict)

    def test_a_choice_says_what_the_dough_lies_on(self) -> None:
        deck, tray = Surface(kind="stone"), Pan(kind="thin_tray")
        for known in styles().values():
            self.assertIs(chosen(known, None, None), Verdict.NOTHING_UNDER_IT)
            self.assertIs(chosen(known, deck, None), Verdict.GOES)
            self.assertIs(chosen(known, None, tray), Verdict.GOES)
            self.assertIs(chosen(known, deck, tray), Verdict.GOES if known.shape == "pan" else Verdict.ONE_OF_THE_TWO)
            for kind in (*OVENS, *FIRES):
                self.assertEqual(takes_second_deck(known, hearth(kind)), known.shape != "pan" and kind in OVENS)

    def test_a_rig_is_known_by_what_it_is_made_of(self) -> None:
        one = Rig(hearth=hearth("electric_oven"), surface=Surface(kind="steel", thickness_mm=10))
        self.assertEqual(one.stable_key, "electric_oven/steel-10")
        self.assertEqual(one.stable_key, one.model_copy(update={"hob_kw": 2.0, "surface": Surface(kind="steel", thickness_mm=10, deck_c=250)}).stable_key)


class StylesOnRigs(TestCase):
    def test_pan_styles_want_walls_and_shaped_ones_a_flat_place(self) -> None:
        oven = hearth("electric_oven")
        for known, pan in product(styles().values(), KINDS.pans):
            verdict = allowed(known, Rig(hearth=oven, pan=Pan(kind=pan)), 500.0)
            walls = KINDS.pans[pan].walled
            if known.shape == "pan" and walls:
                self.assertIs(verdict, Verdict.GOES, (known.key, pan))
            if known.shape != "pan" and not KINDS.pans[pan].carries:
                self.assertLess(verdict.reach, Reach.OFFERED, (known.key, pan))
            bare = allowed(known, Rig(hearth=oven, pan=Pan(kind=pan, wall_cm=0.5)), 500.0)
            self.assertEqual(bare is Verdict.WANTS_WALLS, known.shape == "pan", (known.key, pan))
        self.assertIs(allowed(style("focaccia"), Rig(hearth=oven, surface=Surface(kind="stone"))), Verdict.NEEDS_A_PAN)

    def test_what_the_board_shows_a_plan_takes(self) -> None:
        """One rule: no cell of a board is refused when it is opened."""
        rigs = [Rig(hearth=hearth(kind), surface=Surface(kind=deck)) for kind in [*OVENS, "gas_grill"] for deck in ("stone", "steel")]
        rigs += [Rig(hearth=hearth(kind), pan=Pan(kind=pan)) for kind in OVENS for pan in KINDS.pans]
        rigs += [Rig(hearth=hearth(kind), surface=own_surface(hearth(kind))) for kind in FIRES]
        for known, rig in product(styles().values(), rigs):
            on_board = MatchRig(key="r", pan_area_cm2=700.0 if rig.pan else None, **{name: getattr(rig, name) for name in Rig.model_fields})
            if makes_sense(known, on_board):
                dough, toppings = portion(known, on_board.pan_area_cm2)
                PlanInput(hearth=rig.hearth, surface=rig.surface, pan=rig.pan, style=known.key, dough=dough, toppings=toppings)

    def test_a_coating_that_stands_less_than_the_style_wants_is_offered_but_not_on_the_board(self) -> None:
        coated = Rig(hearth=hearth("electric_oven"), pan=Pan(kind="dark_aluminium"), coating_limit_c=150.0)
        self.assertIs(allowed(style("tall_square_pan"), coated, 500.0), Verdict.COATING_TOO_WEAK)


class Sizes(TestCase):
    @settings(max_examples=60)
    @given(st.floats(10, 120), st.floats(10, 120), st.sampled_from(sorted(KINDS.pans)), st.sampled_from([*OVENS, "gas_grill"]), st.floats(20, 120))
    def test_what_fits_a_rack_is_never_too_large_to_bake(self, width: float, depth: float, pan: str, kind: str, rack: float) -> None:
        """Fitting and baking agree on sizes: a thing that goes in has room for its dough."""
        oven = hearth(kind, rack_width_cm=rack, rack_depth_cm=rack)
        extent = Extent(pan, 1.5, width, depth)
        if fit(extent, Room(kind, "oven", rack, rack)).how is not Fits.NOT:
            self.assertLessEqual(extent.area_cm2, min(LARGEST_CM2, oven.room_cm2) + 1e-6)

    def test_a_pan_that_fills_the_rack_bakes_and_one_beyond_says_so(self) -> None:
        oven = hearth("electric_oven", rack_width_cm=45.0, rack_depth_cm=40.0)
        for area, cells in ((1800.0, 6), (1900.0, 0)):
            rig = MatchRig(key="large", hearth=oven, pan=Pan(kind="dark_aluminium"), pan_area_cm2=area)
            self.assertEqual(len(match(MatchInput(rigs=(rig,))).cells), cells)
        dough, _ = portion(style("focaccia"), 1900.0)
        with self.assertRaisesRegex(ValidationError, "does not fit the electric oven"):
            PlanInput(hearth=oven, pan=Pan(kind="dark_aluminium"), style="focaccia", dough=dough)

    def test_an_assumed_rack_size_refuses_nothing_and_is_asked_for(self) -> None:
        """A rack that nobody measured: what is larger than usual goes in, with a note to measure, and bakes."""
        great = Extent("stone", 15.0, 60.0, 50.0)
        unknown, measured = fit(great, Room("electric_oven", "boat oven")), fit(great, Room("electric_oven", "boat oven", 45.0, 40.0))
        self.assertEqual((unknown.how, measured.how), (Fits.WITH_CARE, Fits.NOT))
        self.assertIn("Measure the rack of the boat oven and enter its size", unknown.text)
        dough, _ = portion(style("focaccia"), 2400.0)
        request = PlanInput(hearth=hearth("electric_oven"), pan=Pan(kind="dark_aluminium"), style="focaccia", dough=dough)
        self.assertGreaterEqual(bake_of(request, Controls(setpoint_c=230.0, level=2, preheat_min=30.0)).hearth.room_cm2, 2400.0)

    def test_a_round_tray_holds_less_than_its_square_and_says_no_corners(self) -> None:
        square, circle = (Extent("thin_tray", 1.0, 32.0, 32.0, is_round) for is_round in (False, True))
        self.assertAlmostEqual(circle.area_cm2 / square.area_cm2, math.pi / 4.0)
        self.assertEqual((square.has_corners, Extent("cast_iron", 4.0, 26.0, 26.0).has_corners), (True, False))
        for is_round in (True, False):
            self.assertEqual("corners" in shape_task(by_hand(style("family_tray"), on="tray", is_round=is_round), "")[1], not is_round)

    def test_a_round_wider_than_the_oven_leaves_the_others_on_the_board(self) -> None:
        own = style("new_york").model_copy(update={"key": "cartwheel", "diameter_cm": 52.0, "mass_g": 900.0})
        rig = MatchRig(key="r", hearth=hearth("electric_oven", rack_width_cm=45.0, rack_depth_cm=40.0), surface=Surface(kind="stone", thickness_mm=15))
        result = match(MatchInput(rigs=(rig,), styles=("cartwheel", "home_oven_round"), own_styles=(own,)))
        self.assertEqual([cell.style for cell in result.cells], ["home_oven_round"])


class Data(TestCase):
    def test_every_kind_is_whole(self) -> None:
        for key, row in KINDS.hearths.items():
            with self.subTest(key):
                self.assertEqual((row.build is not None, row.fire is not None), (row.heat == "dial", row.heat == "fire"))
                self.assertTrue(row.room_cm2 > 0 or row.heat == "burner")
                self.assertIn(row.usual_style, ("", *styles()))
                if row.fire is not None:
                    self.assertIn(row.fire.own, KINDS.surfaces)
                    self.assertTrue(row.caution, "a fire is an outdoor thing and says so")
        for row in KINDS.pans.values():
            self.assertIn(row.usual_style, ("", *styles()))
            self.assertTrue(row.proofs or row.carries, "something is baked in it")
        self.assertEqual(set(materials()), (set(KINDS.surfaces) | set(KINDS.pans)) - {"none"})

    def test_no_code_knows_a_kind_by_name(self) -> None:
        """The catalogue is asked; a name in code would be a rule said twice."""
        import re
        from pathlib import Path

        import mattone_engine

        names = [key for key in (*KINDS.hearths, *KINDS.surfaces, *KINDS.pans) if key not in ("none", "hob", "stone", "steel", "grate")]
        pattern = re.compile("|".join(f'"{name}"' for name in names))
        here = Path(mattone_engine.__file__).parent
        # A default to begin with, things to propose, and the evidence's own bakes.
        spared = {"things/hearth.py", "things/support.py", "bake/match.py", "bake/help.py"}
        for file in here.rglob("*.py"):
            place = file.relative_to(here).as_posix()
            if place in spared or place.startswith("evidence/"):
                continue
            found = [line for line in file.read_text(encoding="utf-8").splitlines() if pattern.search(line)]
            self.assertEqual(found, [line for line in found if "kinds().hearths[" in line], place)
