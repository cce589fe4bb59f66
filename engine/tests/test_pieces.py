"""The pieces a bake is put together from: dough, cells, topping, words, errors."""

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from mattone_engine.bake.cautions import cautions
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.heat import column as k
from mattone_engine.heat.formula_effects import browning_factor, moisture_kg_kg
from mattone_engine.heat.layout import FINEST_TOPPING, SAUCE_CELLS, TOPPING_CELLS, _topping_water, dough_cell_masses, topping_shares
from mattone_engine.heat.properties import boiling_c, properties
from mattone_engine.heat.run import output_grid
from mattone_engine.styles import styles
from mattone_engine.things import Dough, Pan, Surface
from mattone_engine.things.air import pressure_pa
from mattone_engine.things.capabilities import materials
from mattone_engine.things.text import celsius, clock, kelvin, millimetres, plain, sooner_or_later
from pydantic import ValidationError


class Cells(TestCase):
    @given(st.floats(0.8, 14.0), st.integers(16, 30), st.integers(1, 4))
    def test_cells_weigh_what_the_dough_weighs(self, total: float, count: int, refine: int) -> None:
        cells = dough_cell_masses(total, 0.072, count, refine=refine)
        self.assertEqual(cells.size, count * refine)
        self.assertAlmostEqual(float(cells.sum()) / total, 1.0, places=12)
        self.assertTrue((cells > 0).all())
        self.assertLessEqual(cells[0], 0.072 / refine + 1e-12)

    @given(st.floats(0.1, 0.9), st.floats(0.1, 12.0), st.sampled_from([1, 2, 4]))
    def test_sauce_and_cheese_share_the_water(self, mean: float, load: float, refine: int) -> None:
        water, share = _topping_water(mean, load, refine), topping_shares(load, refine=refine)
        self.assertTrue(((water >= 0.05) & (water <= 0.95)).all())
        self.assertAlmostEqual(float((water * share).sum()), mean, delta=0.05)
        self.assertLessEqual(water[-1], water[0] + 1e-9)

    @given(st.floats(0.05, 12.0), st.sampled_from([1, 2, 4]))
    def test_a_topping_is_shared_out_whole_and_finest_at_its_face(self, load: float, refine: int) -> None:
        share = topping_shares(load, refine=refine)
        self.assertEqual(share.size, TOPPING_CELLS * refine)
        self.assertAlmostEqual(float(share.sum()), 1.0, places=12)
        cheese = share[SAUCE_CELLS * refine :] * load * refine
        self.assertTrue((np.diff(cheese) <= 1e-12).all())
        # None of the cheese's cells is so thin that a step could not cross it, unless all of it is.
        self.assertGreaterEqual(cheese[-1], min(FINEST_TOPPING, cheese.mean()) - 1e-9)

    @given(st.floats(0.02, 5.9))
    def test_where_a_moisture_boils_is_the_sorption_turned_round(self, x: float) -> None:
        rows = properties(101325.0).rows
        steps = np.arange(k.ROW_COUNT)
        at = k.T_LO + k.T_STEP * np.interp(x, rows[k.ROW_XQ, ::-1], steps[::-1])
        found = float(np.interp(x**0.5, k.V_STEP * steps, rows[k.ROW_BOIL]))
        self.assertAlmostEqual(found, at, delta=0.05)

    @given(st.floats(-400.0, 5000.0))
    def test_water_boils_cooler_higher_up(self, altitude_m: float) -> None:
        """Wagner & Pruss (2002): 100.0 C at sea level; a kelvin less for some 300 m."""
        self.assertAlmostEqual(boiling_c(pressure_pa(altitude_m)), 100.0 - altitude_m / 299.0, delta=0.25 + abs(altitude_m) * 2e-4)
        self.assertGreater(boiling_c(pressure_pa(altitude_m)), boiling_c(pressure_pa(altitude_m + 50.0)))

    @given(st.floats(1.0, 3000.0))
    def test_the_grid_ends_where_it_is_told(self, until_s: float) -> None:
        grid = output_grid(until_s)
        self.assertEqual((grid[0], grid[-1]), (0.0, until_s))
        self.assertTrue((np.diff(grid) > 0).all())


class Formula(TestCase):
    def test_moisture_by_hand(self) -> None:
        """65 % water and flour of 14 % moisture: 0.79 over 0.86 + 0.025 salt."""
        self.assertAlmostEqual(moisture_kg_kg(Dough(hydration_pct=65)), 0.79 / 0.885, places=12)

    @given(st.floats(0, 14), st.floats(0, 19))
    def test_sugar_and_oil_never_slow_browning_and_stay_bounded(self, sugar: float, oil: float) -> None:
        factor = browning_factor(Dough(sugar_pct=sugar, oil_pct=oil))
        self.assertTrue(1.0 <= factor <= 1.7)
        self.assertGreaterEqual(browning_factor(Dough(sugar_pct=sugar + 1, oil_pct=oil)), factor)
        self.assertGreaterEqual(browning_factor(Dough(sugar_pct=sugar, oil_pct=oil + 1)), factor)

    def test_effusivity_orders_the_decks(self) -> None:
        e = {kind: material.effusivity for kind, material in materials().items()}
        self.assertGreater(e["steel"], 5 * e["stone"])
        self.assertGreater(e["stone"], e["firebrick"])

    def test_a_base_that_is_no_base_is_refused(self) -> None:
        for mass, area in ((20.0, 4000.0), (4000.0, 700.0)):
            with self.assertRaisesRegex(ValidationError, "g/cm2"):
                Dough(mass_g=mass, area_cm2=area)


class Words(TestCase):
    def test_times(self) -> None:
        for seconds, word in ((0, "0:00"), (59.6, "1:00"), (90, "1:30"), (599, "9:59"), (600, "10 min"), (1170, "20 min")):
            self.assertEqual(clock(seconds), word)
        self.assertEqual(sooner_or_later(3), "at the same time")
        self.assertEqual(sooner_or_later(-75), "1:15 sooner")
        self.assertEqual(sooner_or_later(75), "1:15 later")

    def test_quantities_are_marked_for_the_reader(self) -> None:
        self.assertEqual((celsius(254.62), celsius(-0.01), kelvin(8), millimetres(10.0)), ("{254.6 C}", "{0 C}", "{8 K}", "{10 mm}"))

    def test_marks_are_read_out_where_nobody_turns_them(self) -> None:
        self.assertEqual(plain("dial at {204.4 C}, {8 K} over {10.5 mm}"), "dial at 204 C, 8 K over 10.5 mm")

    def test_a_dial_set_in_fahrenheit_comes_back_as_it_was_set(self) -> None:
        """400 F became 399."""
        for dial_f in range(100, 1000):
            told_c = float(celsius((dial_f - 32.0) / 1.8).strip("{} C"))
            self.assertEqual(round(told_c * 1.8 + 32.0), dial_f)


class Cautions(TestCase):
    def keys(self, **changes: object) -> set[str]:
        given = {"surface": Surface(kind="steel", thickness_mm=10)} | changes
        return {c.key for c in cautions(PlanInput(**given), Controls(setpoint_c=240, level=2, preheat_min=40))}  # type: ignore[arg-type]

    def test_each_stands_only_where_it_applies(self) -> None:
        always = {"vents", "hot_surface"}
        self.assertEqual(self.keys(), always | {"weight"})
        self.assertEqual(self.keys(surface=Surface(kind="steel", thickness_mm=4)), always)
        self.assertEqual(self.keys(surface=Surface(kind="stone", thickness_mm=15)), always | {"thermal_shock"})
        self.assertEqual(self.keys(parchment=True), always | {"weight", "parchment"})
        self.assertEqual(self.keys(surface=None, pan=Pan(kind="thin_tray")), always | {"oil_in_tray"})
        self.assertEqual(self.keys(style="gluten_free_round"), always | {"weight", "gluten"})

    def test_a_pan_style_wants_its_pan(self) -> None:
        for key, known in styles().items():
            if known.shape == "pan":
                with self.assertRaisesRegex(ValidationError, "baked in a pan"):
                    PlanInput(surface=Surface(kind="stone", thickness_mm=15), style=key)  # type: ignore[arg-type]
