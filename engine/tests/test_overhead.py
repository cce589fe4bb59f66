"""What a food meets in a hearth: cooler glass overhead, a ring of an element, air in layers, moved air, a bare hood."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.heat import column as k
from mattone_engine.heat.environment import AMBIENT_C, build_of, cavity_parameters, control_row, dome_of, layer_k, level_height_m, steady_cavity
from mattone_engine.heat.parameters import known
from mattone_engine.things import Hearth
from mattone_engine.things.capabilities import kinds

OVENS = sorted(key for key, row in kinds().hearths.items() if row.heat == "dial")


def met(hearth: Hearth, level: int, *, full: bool = False, shield: float = 1.0) -> np.ndarray:
    """The boundary, B_ slots, of a food on a level of this hearth held at its dial."""
    p = cavity_parameters(hearth, 0.07)
    cav, u, bc = steady_cavity(hearth, p), control_row(hearth, level), np.zeros(k.BOUNDARY_SIZE)
    u[k.U_SHIELD] = shield
    if full:
        cav[k.RAD_FULL] = p[k.P_FULL_W]
    k.boundary(cav, p, u, 1.0, bc, 3000.0)
    return bc


class Overhead(TestCase):
    @given(st.floats(120, 300), st.sampled_from(OVENS))
    def test_the_view_is_cooler_than_the_liner_and_warmer_than_the_kitchen(self, setpoint: float, kind: str) -> None:
        hearth = Hearth(kind=kind, setpoint_c=setpoint, levels=5, level=3)
        liner = steady_cavity(hearth, cavity_parameters(hearth, 0.07))[k.LINER]
        view = met(hearth, 3)[k.B_VIEW_TOP]
        self.assertTrue(AMBIENT_C < view < liner)
        # About a sixth of the way to the kitchen: glass, not the ceiling alone.
        self.assertAlmostEqual((liner - view) / (liner - AMBIENT_C), known(None)["cool_view"], delta=0.04)

    def test_under_a_fan_it_is_nearer_to_the_air(self) -> None:
        still, moved = (met(Hearth(setpoint_c=250, fan=fan), 3) for fan in (False, True))
        self.assertGreater(moved[k.B_VIEW_TOP], still[k.B_VIEW_TOP] + 5.0)
        self.assertGreater(moved[k.B_FILM_TOP], 2.0 * still[k.B_FILM_TOP])
        self.assertGreater(moved[k.B_FILM_UNDER], 2.0 * still[k.B_FILM_UNDER])

    @given(st.integers(1, 4), st.sampled_from(OVENS))
    def test_still_air_is_hotter_higher_up_and_moved_air_is_not(self, level: int, kind: str) -> None:
        still, moved = ([met(Hearth(kind=kind, setpoint_c=240, levels=5, fan=fan), at)[k.B_AIR_TOP] for at in (level, level + 1)] for fan in (False, True))
        self.assertGreater(still[1], still[0])
        self.assertAlmostEqual(moved[1], moved[0], places=9)

    def test_layers_are_as_told_a_decimetre(self) -> None:
        build = build_of(Hearth())
        rise = (layer_k(5, 5, build) - layer_k(1, 5, build)) / (level_height_m(5, 5, build) - level_height_m(1, 5, build))
        self.assertAlmostEqual(rise * 0.1, known(None)["layer"], places=9)
        self.assertAlmostEqual(layer_k(3, 5, build), 0.0, places=9)

    def test_a_cold_oven_has_no_layers(self) -> None:
        hearth = Hearth(setpoint_c=250)
        p = cavity_parameters(hearth, 0.07)
        cav, bc = np.full(k.CAVITY_SIZE, AMBIENT_C), np.zeros(k.BOUNDARY_SIZE)
        k.boundary(cav, p, control_row(hearth, 5), 1.0, bc, 3000.0)
        self.assertAlmostEqual(bc[k.B_AIR_TOP], AMBIENT_C, places=9)
        self.assertAlmostEqual(bc[k.B_VIEW_TOP], AMBIENT_C, places=9)

    @given(st.integers(1, 5), st.floats(150, 290))
    def test_a_glowing_element_gives_more_of_its_heat_than_a_dull_one(self, level: int, setpoint: float) -> None:
        """Watt for watt: spread over the ceiling, not a ring at its edge."""
        hearth = Hearth(setpoint_c=setpoint)
        p, u, bc = cavity_parameters(hearth, 0.07), control_row(hearth, level), np.zeros(k.BOUNDARY_SIZE)
        given_w = []
        for slot in (k.RAD_TOP, k.RAD_FULL):
            cav = steady_cavity(hearth, p)
            cav[[k.RAD_TOP, k.RAD_FULL]] = 0.0
            cav[slot] = 1000.0
            k.boundary(cav, p, u, 1.0, bc, 3000.0)
            given_w.append(bc[k.B_RADIANT_TOP])
        self.assertAlmostEqual(given_w[1] / given_w[0], 0.95 / known(None)["ring_dull"], places=6)

    @given(st.integers(1, 5), st.booleans())
    def test_a_shield_never_heats_what_lies_under_it(self, level: int, full: bool) -> None:
        hearth = Hearth(setpoint_c=250)
        bare, under = met(hearth, level, full=full), met(hearth, level, full=full, shield=0.15)

        def radiant(bc: np.ndarray) -> float:
            return float(bc[k.B_RADIANT_TOP] + k.SIGMA * (bc[k.B_VIEW_TOP] + k.K0) ** 4)

        self.assertLess(radiant(under), radiant(bare) + 40.0)
        if full:
            self.assertLess(radiant(under), 0.75 * radiant(bare))

    def test_what_the_food_does_not_take_of_an_element_the_liner_does(self) -> None:
        """No energy is lost in the ring: a hearth with less view of its food keeps the more in its walls."""
        hearth = Hearth(setpoint_c=300)
        liners = []
        for ring in (0.2, 0.45):
            p = cavity_parameters(hearth, 0.13, values={**known(None), "ring_dull": ring})
            cav, u = steady_cavity(hearth, p), control_row(hearth, 4)
            p[k.P_U_LOSS] = 0.0
            u[k.U_SETPOINT] = 400.0
            stored = [float(p[k.P_C_AIR] * cav[k.AIR] + p[k.P_C_LINER] * cav[k.LINER] + p[k.P_C_SKIN] * cav[k.SKIN])]
            for _ in range(60):
                k.step_cavity(5.0, cav, p, u, np.zeros(k.SINKS))
            stored.append(float(p[k.P_C_AIR] * cav[k.AIR] + p[k.P_C_LINER] * cav[k.LINER] + p[k.P_C_SKIN] * cav[k.SKIN]))
            liners.append(stored[1] - stored[0])
        self.assertGreater(liners[0], liners[1])


class Fires(TestCase):
    def test_a_bare_hood_is_nearer_the_garden_than_its_gases_and_a_dome_is_not(self) -> None:
        for kind in ("gas_grill", "charcoal_grill", "flame_oven"):
            hearth = Hearth(kind=kind, levels=1, level=1, floor_c=330.0, dome_c=300.0)
            seen = cavity_parameters(hearth, 0.07)[k.P_DOME_C]
            hooded = hearth.traits.fire is not None and hearth.traits.fire.hooded
            share = known(None)["hood_cooler"] if hooded else 0.0
            self.assertAlmostEqual(seen, dome_of(hearth) - share * (dome_of(hearth) - AMBIENT_C), places=9)

    @settings(max_examples=20)
    @given(st.floats(0.1, 0.4))
    def test_values_of_a_study_reach_the_hearth(self, share: float) -> None:
        hearth = Hearth(kind="gas_grill", levels=1, level=1, floor_c=330.0, dome_c=300.0)
        p = cavity_parameters(hearth, 0.07, values={**known(None), "hood_cooler": share})
        self.assertAlmostEqual(p[k.P_DOME_C], 300.0 - share * 278.0, places=9)
