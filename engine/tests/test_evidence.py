"""The model beside bakes of general practice, and its parameters inside their physics."""

import tomllib
from importlib.resources import files
from unittest import TestCase

import numpy as np
from mattone_engine.bake.simulate import simulate
from mattone_engine.evidence import MEET, outside, reference_bakes
from mattone_engine.evidence.report import MISSED_LOSSES
from mattone_engine.heat.outcome import first_there, target_of
from mattone_engine.heat.parameters import parameters
from mattone_engine.things import Dough, Hearth, Pan, SimulateInput, Surface
from scipy.stats import linregress

# No fit has more freedom than this.
MOST_FITTED = 14


class ReferenceBakes(TestCase):
    def test_there_are_those_of_practice(self) -> None:
        """R1 to R33, the twelfth by hand and rolled."""
        self.assertEqual([bake.name for bake in reference_bakes()], [f"R{i}" for i in range(1, 13)] + ["R12r"] + [f"R{i}" for i in range(13, 34)])

    def test_the_error_does_not_depend_on_the_dial(self) -> None:
        """Slope of ln(pull / middle of its window) over the dial, of ovens with one: not different from zero, and less than a tenth for 50 K."""
        ovens = [bake for bake in reference_bakes() if not bake.request.hearth.is_flame]
        dials = np.array([bake.request.hearth.setpoint_c for bake in ovens])
        errors = np.array([np.log(bake.result().likely_done_s) - 0.5 * np.log(bake.window_s[0] * bake.window_s[1]) for bake in ovens])
        found = linregress(dials, errors)
        self.assertGreater(dials.max(), 275.0)
        self.assertGreater(found.pvalue, 0.2)
        self.assertLess(abs(found.slope) * 50.0, 0.1)
        self.assertLess(abs(float(errors.mean())), 0.05)

    def test_every_pull_lies_inside_its_window(self) -> None:
        for bake in reference_bakes():
            with self.subTest(bake.name):
                self.assertEqual(outside(bake.result().likely_done_s, *bake.window_s), 0.0)

    def test_losses_are_near_but_for_those_that_are_said(self) -> None:
        missed = []
        for bake in reference_bakes():
            if bake.loss_pct is not None and abs(outside(bake.result().at_done.loss_pct, *bake.loss_pct)) > 3.0:
                missed.append(bake.name)
        self.assertEqual(missed, list(MISSED_LOSSES), "the page says which losses are missed")

    def test_base_and_rim_meet_where_they_should(self) -> None:
        """The base used to lag on thin trays, under fans and on thin decks, by half the bake."""
        met = [bake for bake in reference_bakes() if bake.meets]
        self.assertEqual([bake.name for bake in met], ["R1", "R2", "R3", "R4", "R8", "R9", "R12", "R15", "R17"])
        for bake in met:
            with self.subTest(bake.name):
                met = bake.meeting(bake.result())
                assert met is not None
                self.assertLessEqual(abs(met - 1.0), MEET)

    def test_cheese_is_what_its_style_wants_in_four_of_five(self) -> None:
        """It was pale at four pulls of five."""
        topped = [bake for bake in reference_bakes() if bake.request.toppings.mass_g > 0]
        near = [bake for bake in topped if abs(bake.result().at_done.cheese_l - target_of(bake.request).cheese) <= 4.0]
        self.assertGreaterEqual(len(near) / len(topped), 0.8)

    def test_crusts_are_as_cooks_see_them_where_they_say_so(self) -> None:
        """Base and rim inside their bands but for R13's base, which lags: model.md says so."""
        off = []
        for bake in reference_bakes():
            crust = bake.result().at_done
            for part, band, l_star in (("base", bake.base_l, crust.base_l), ("rim", bake.rim_l, crust.rim_l)):
                if band is not None and outside(l_star, *band) != 0.0:
                    off.append((bake.name, part))
        self.assertEqual(off, [("R13", "base")])

    def test_a_bare_base_is_set_and_still_pale(self) -> None:
        crust = next(bake for bake in reference_bakes() if bake.name == "R10").result().at_done
        self.assertTrue(min(crust.base_l, crust.rim_l) > 76.0)


class Parameters(TestCase):
    def test_none_lies_within_a_tenth_of_an_end(self) -> None:
        for name, p in parameters().items():
            low, high = p.range
            with self.subTest(name):
                self.assertTrue(0.1 <= (p.value - low) / (high - low) <= 0.9)
                self.assertTrue(p.argument)
        self.assertEqual(parameters()["food_emissivity"].range, (0.8, 0.95))

    def test_few_are_fitted(self) -> None:
        self.assertLessEqual(sum(p.fitted for p in parameters().values()), MOST_FITTED)

    def test_every_one_is_used(self) -> None:
        """Nudged far, each changes some reference bake or preheat: none is there for show."""
        code = "".join(file.read_text(encoding="utf-8") for file in files("mattone_engine.heat").iterdir() if file.name.endswith(".py"))
        for name in tomllib.loads(files("mattone_engine.heat").joinpath("parameters.toml").read_text(encoding="utf-8")):
            if name not in ("contact_wet", "contact_gap", "oiled_wet"):
                self.assertIn(f'"{name}"', code)


class WholeClasses(TestCase):
    """Kinds of bake that were wrong as a kind."""

    def bake(self, setpoint_c: float, *, fan: bool = False, level: int = 3, **more: object) -> SimulateInput:
        return SimulateInput.model_validate({"hearth": Hearth(setpoint_c=setpoint_c, fan=fan, level=level), "dough": Dough(mass_g=260, area_cm2=707), **more})

    def test_trays_take_longer_than_decks_and_their_rims_do_not_burn_first(self) -> None:
        for setpoint_c in (220.0, 235.0, 250.0):
            tray = simulate(self.bake(setpoint_c, pan=Pan(kind="thin_tray", thickness_mm=0.8)), spread=(0.8, 1.3))
            stone = simulate(self.bake(setpoint_c, surface=Surface(kind="stone", thickness_mm=15)), spread=(0.8, 1.3))
            self.assertGreater(tray.likely_done_s, stone.likely_done_s)
            self.assertGreater(tray.at_done.rim_l, 53.0)
            self.assertLess(tray.at_done.base_l, 71.0)

    def test_a_fan_bakes_sooner_at_the_same_dial_but_not_twice_as_soon(self) -> None:
        for support in ({"pan": Pan(kind="thin_tray", thickness_mm=0.8)}, {"surface": Surface(kind="stone", thickness_mm=15)}):
            still, moved = (simulate(self.bake(230.0, fan=fan, **support), spread=(0.8, 1.3)).likely_done_s for fan in (False, True))
            self.assertTrue(1.05 < still / moved < 1.6, still / moved)

    def test_a_large_round_takes_about_what_a_small_one_of_its_load_does(self) -> None:
        surface = Surface(kind="stone", thickness_mm=15)
        small, large = (
            simulate(self.bake(270.0, surface=surface, dough=Dough(mass_g=0.35 * area, area_cm2=area)), spread=(0.8, 1.3)) for area in (600.0, 1250.0)
        )
        self.assertTrue(0.85 < large.likely_done_s / small.likely_done_s < 1.25)

    def test_a_low_deck_is_not_late(self) -> None:
        low, middle = (simulate(self.bake(250.0, level=level, surface=Surface(kind="stone", thickness_mm=15)), spread=(0.8, 1.3)) for level in (1, 3))
        self.assertLess(low.likely_done_s / middle.likely_done_s, 1.15)

    def test_sugar_that_yeast_eats_browns_nothing(self) -> None:
        def base_s(sugar_pct: float) -> float:
            told = simulate(
                self.bake(250.0, surface=Surface(kind="stone"), dough=Dough(mass_g=260, area_cm2=707, sugar_pct=sugar_pct)), spread=(0.8, 1.3)
            ).traces
            found = first_there(np.array(told.t_s), np.array(told.rim_l), 65.0)
            assert found is not None
            return found

        none, little, much = base_s(0.0), base_s(0.5), base_s(5.0)
        self.assertGreater(little, 0.96 * none)
        self.assertLess(much, 0.93 * none)
