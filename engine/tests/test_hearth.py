"""The hearth around the bake: geometry, energy, regulation."""

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from mattone_engine.heat import column as k
from mattone_engine.heat.environment import (
    bottom_view,
    cavity_parameters,
    cold_cavity,
    control_row,
    disk_view_factor,
    enclosed_emissivity,
    level_height_m,
    steady_cavity,
    top_view,
)
from mattone_engine.heat.preheat import preheat
from mattone_engine.things import Event, Hearth, Surface
from mattone_engine.things.air import pressure_pa
from mattone_engine.things.capabilities import kinds

BUILDS = {kind: row.build for kind, row in kinds().hearths.items() if row.build is not None}
OVEN = BUILDS["electric_oven"]


class Geometry(TestCase):
    def test_disks_that_touch_see_only_each_other(self) -> None:
        self.assertAlmostEqual(disk_view_factor(0.2, 1e-9), 1.0, delta=0.02)
        # Far apart: pi r^2 / (pi h^2) to first order.
        self.assertAlmostEqual(disk_view_factor(0.05, 5.0), (0.05 / 5.0) ** 2, delta=1e-6)

    @given(st.floats(0.02, 0.5), st.floats(0.02, 1.0))
    def test_a_view_factor_is_a_share_and_falls_with_distance(self, radius: float, gap: float) -> None:
        near, far = disk_view_factor(radius, gap), disk_view_factor(radius, 1.5 * gap)
        self.assertTrue(0 < far < near <= 1)

    def test_levels_rise_and_trade_one_element_for_the_other(self) -> None:
        for kind, build in BUILDS.items():
            with self.subTest(kind):
                heights = [level_height_m(level, 5, build) for level in range(1, 6)]
                self.assertEqual(heights, sorted(heights))
                tops, bottoms = ([view(level, 5, build) for level in range(1, 6)] for view in (top_view, bottom_view))
                self.assertEqual(tops, sorted(tops))
                self.assertEqual(bottoms, sorted(bottoms, reverse=True))
                self.assertTrue(0 < max(tops) < 1 and 0 < max(bottoms) < 1)
        self.assertTrue(level_height_m(1, 1, OVEN) < level_height_m(5, 5, OVEN))

    def test_the_standard_atmosphere(self) -> None:
        """ICAO (1993): 101325 Pa at sea level, 84556 at 1500 m, 70109 at 3000 m."""
        for altitude, pa in ((0.0, 101325.0), (1500.0, 84556.0), (3000.0, 70109.0)):
            self.assertAlmostEqual(pressure_pa(altitude) / pa, 1.0, delta=2e-4)

    def test_a_black_face_in_a_grey_box_is_as_grey_as_the_box(self) -> None:
        self.assertAlmostEqual(enclosed_emissivity(1.0), 0.85)
        self.assertLess(enclosed_emissivity(0.5), 0.5)


def stored_j(cav: np.ndarray, p: np.ndarray) -> float:
    """Heat in the lumps above 0 C."""
    return float(p[k.P_C_AIR] * cav[k.AIR] + p[k.P_C_LINER] * cav[k.LINER] + p[k.P_C_SKIN] * cav[k.SKIN])


class Energy(TestCase):
    def test_a_closed_cavity_keeps_what_the_elements_give(self) -> None:
        """No losses, nothing in it: stored heat plus what the elements still hold equals the electricity."""
        p = cavity_parameters(Hearth(setpoint_c=300), 0.0)
        p[k.P_U_LOSS] = 0.0
        cav, u = cold_cavity(), control_row(Hearth(setpoint_c=300), 3)
        u[k.U_VIEW_TOP] = u[k.U_VIEW_BOTTOM] = 0.0
        before = stored_j(cav, p)
        for _ in range(120):
            k.step_cavity(5.0, cav, p, u, np.zeros(4))
        held = (cav[k.RAD_BOTTOM] + cav[k.RAD_TOP]) * p[k.P_TAU_ELEMENT]
        self.assertAlmostEqual((stored_j(cav, p) - before + held) / cav[k.DUTY], 1.0, delta=2e-3)

    def test_switched_off_it_cools_to_the_room(self) -> None:
        hearth = Hearth(setpoint_c=250)
        p = cavity_parameters(hearth, 0.0)
        cav, u = steady_cavity(hearth, p), control_row(hearth, 3)
        u[k.U_HEAT] = 0.0
        temperatures = []
        for _ in range(60):
            k.step_cavity(600.0, cav, p, u, np.zeros(4))
            temperatures.append(float(cav[k.LINER]))
        self.assertEqual(temperatures, sorted(temperatures, reverse=True))
        self.assertAlmostEqual(temperatures[-1], p[k.P_AMBIENT_C], delta=5)

    def test_regulated_it_stands_at_the_dial_and_draws_its_losses(self) -> None:
        for setpoint in (180.0, 250.0):
            hearth = Hearth(setpoint_c=setpoint)
            p = cavity_parameters(hearth, 0.0)
            cav, u = steady_cavity(hearth, p), control_row(hearth, 3)
            u[k.U_VIEW_TOP] = u[k.U_VIEW_BOTTOM] = 0.0
            for _ in range(40):
                k.step_cavity(300.0, cav, p, u, np.zeros(4))
            self.assertAlmostEqual(cav[k.AIR], setpoint, delta=5)
            drawn = cav[k.DUTY]
            k.step_cavity(3600.0, cav, p, u, np.zeros(4))
            watts = (cav[k.DUTY] - drawn) / 3600.0
            series = 1.0 / (1.0 / p[k.P_U_LINER_SKIN] + 1.0 / p[k.P_U_LOSS])
            self.assertAlmostEqual(watts / (series * (setpoint - 22.0)), 1.0, delta=0.05)

    def test_an_open_door_costs_air_first(self) -> None:
        hearth = Hearth(setpoint_c=250)
        p = cavity_parameters(hearth, 0.0)
        cav, u = steady_cavity(hearth, p), control_row(hearth, 3)
        u[k.U_DOOR] = 1.0
        air, liner = cav[k.AIR], cav[k.LINER]
        k.step_cavity(12.0, cav, p, u, np.zeros(4))
        self.assertLess(cav[k.AIR], air - 60)
        self.assertGreater(cav[k.LINER], liner - 10)


class Controls(TestCase):
    def test_a_top_element_before_launch_heats_the_deck(self) -> None:
        hearth, deck = Hearth(setpoint_c=250, level=5), Surface(kind="steel", thickness_mm=8)
        plain = preheat(hearth, deck, 45).deck_c[-1]
        lit = preheat(hearth, deck, 45, events=(Event(at_s=-300, do="top_element_on"),)).deck_c[-1]
        self.assertGreater(lit, plain + 5)

    def test_a_setpoint_turned_down_before_launch_cools_the_air(self) -> None:
        hearth, deck = Hearth(setpoint_c=275), Surface(kind="stone", thickness_mm=15)
        down = preheat(hearth, deck, 60, events=(Event(at_s=-1200, do="setpoint", setpoint_c=200.0),))
        self.assertLess(down.air_c[-1], 260)
        self.assertGreater(down.deck_c[-1], down.air_c[-1])

    def test_a_weak_oven_is_slower(self) -> None:
        deck = Surface(kind="steel", thickness_mm=10)
        self.assertLess(preheat(Hearth(power_kw=1.6), deck, 25).deck_c[-1], preheat(Hearth(power_kw=3.2), deck, 25).deck_c[-1])
