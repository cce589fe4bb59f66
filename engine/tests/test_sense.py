"""Sense on drawn rigs: what every cook knows must hold on all of them, not on the reference bakes alone."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.heat.outcome import Series, likely_done, series, target_of
from mattone_engine.heat.run import Bake
from mattone_engine.heat.variation import AS_TOLD, Variation
from mattone_engine.things import Dough, Event, Hearth, Pan, SimulateInput, Surface, Toppings

AT_S = 420.0
ON_TRAYS = settings(max_examples=12)
SUPPORTS: tuple[dict[str, Any], ...] = (
    {"surface": Surface(kind="stone", thickness_mm=15)},
    {"surface": Surface(kind="steel", thickness_mm=8)},
    {"surface": Surface(kind="upturned_tray", thickness_mm=2)},
    {"pan": Pan(kind="thin_tray", thickness_mm=0.8)},
    {"pan": Pan(kind="bright_aluminium", thickness_mm=1.2)},
    {"surface": Surface(kind="stone", thickness_mm=20), "pan": Pan(kind="dark_aluminium", thickness_mm=1.6)},
)


@st.composite
def rigs(draw: st.DrawFn) -> dict[str, Any]:
    """An oven, what the dough lies on, and the dough: as SimulateInput takes them."""
    return {
        "hearth": {
            "setpoint_c": draw(st.floats(190, 280)), "level": draw(st.integers(1, 5)), "fan": draw(st.booleans()),
            "power_kw": draw(st.floats(2.0, 3.6)), "dial_error_k": draw(st.floats(-15, 10)),
        },
        "preheat_min": draw(st.floats(10, 70)),
        "dough": Dough(mass_g=draw(st.floats(160, 420)), area_cm2=707, hydration_pct=draw(st.floats(55, 80)), shape=draw(st.sampled_from(["hand", "rolled"]))),
        "toppings": Toppings(mass_g=draw(st.floats(60, 320)), water_pct=draw(st.floats(45, 75))),
        **draw(st.sampled_from(SUPPORTS)),
    }  # fmt: skip


UNSEEN_L = 0.02


def baked(rig: dict[str, Any], until_s: float = AT_S, truth: Variation = AS_TOLD, **changes: Any) -> Series:
    spec = SimulateInput.model_validate(rig | {"hearth": Hearth.model_validate(rig["hearth"])} | changes)
    bake = Bake(spec, quick=True, variation=truth)
    bake.advance_to(until_s)
    return series(bake.trace())


def hotter(rig: dict[str, Any], by: float) -> dict[str, Any]:
    return rig | {"hearth": rig["hearth"] | {"setpoint_c": rig["hearth"]["setpoint_c"] + by}}


class Colours(TestCase):
    @ON_TRAYS
    @given(rigs())
    def test_they_only_ever_darken_and_end_where_they_end(self, rig: dict[str, Any]) -> None:
        result = baked(rig, 1500.0)
        for values, end in ((result.base_l, 20.0), (result.rim_l, 20.0), (result.cheese_l, 58.0)):
            self.assertTrue((np.diff(values) <= 1e-9).all())
            self.assertGreaterEqual(values[-1], end)
        self.assertTrue((np.diff(result.loss_pct) >= -1e-9).all())

    @ON_TRAYS
    @given(rigs(), st.floats(8, 25))
    def test_a_hotter_oven_is_never_paler(self, rig: dict[str, Any], by: float) -> None:
        cool, hot = baked(rig), baked(hotter(rig, by))
        # A dial switches a moment sooner or later: on a base that is still dough that is some thousandths, which nobody sees.
        self.assertLess(hot.rim_l[-1], cool.rim_l[-1] + UNSEEN_L)
        self.assertLess(hot.base_l[-1], cool.base_l[-1] + UNSEEN_L)
        self.assertGreater(hot.loss_pct[-1], cool.loss_pct[-1] - 0.05)

    @ON_TRAYS
    @given(rigs(), st.floats(1.05, 1.4))
    def test_a_dough_that_browns_faster_is_darker_everywhere(self, rig: dict[str, Any], factor: float) -> None:
        plain, brown = baked(rig), baked(rig, truth=Variation(browning=factor))
        for name in ("base_l", "rim_l", "cheese_l"):
            self.assertLessEqual(getattr(brown, name)[-1], getattr(plain, name)[-1] + 1e-9, name)
        np.testing.assert_allclose(brown.core_c, plain.core_c, atol=1e-9, err_msg="colour moves no heat")

    @ON_TRAYS
    @given(rigs(), st.floats(20, 60), st.floats(10, 40))
    def test_an_element_that_glows_longer_never_leaves_the_top_paler(self, rig: dict[str, Any], seconds: float, more: float) -> None:
        rig = rig | {"hearth": rig["hearth"] | {"fan": False}}

        def lit(until: float) -> Series:
            return baked(rig, events=(Event(at_s=60.0, do="top_element_on"), Event(at_s=60.0 + until, do="top_element_off")))

        short, long = lit(seconds), lit(seconds + more)
        self.assertLess(long.rim_l[-1], short.rim_l[-1] + 0.3)
        self.assertLess(long.cheese_l[-1], short.cheese_l[-1] + 0.3)


class Masses(TestCase):
    @ON_TRAYS
    @given(rigs(), st.floats(1.15, 1.5))
    def test_a_thicker_dough_is_hot_later(self, rig: dict[str, Any], times: float) -> None:
        thin, thick = baked(rig), baked(rig | {"dough": rig["dough"].model_copy(update={"mass_g": times * rig["dough"].mass_g})})
        early = thin.core_c < 90.0
        self.assertTrue((thick.core_c[early] <= thin.core_c[early] + 0.5).all())

    @ON_TRAYS
    @given(rigs(), st.floats(1.3, 3.0))
    def test_a_heavier_load_is_hot_later_and_wetter_below(self, rig: dict[str, Any], times: float) -> None:
        light, heavy = baked(rig), baked(rig | {"toppings": rig["toppings"].model_copy(update={"mass_g": times * rig["toppings"].mass_g})})
        early = light.sauce_c < 85.0
        self.assertTrue((heavy.sauce_c[early] <= light.sauce_c[early] + 1.0).all())
        self.assertGreaterEqual(heavy.wet_kg_m2[-1], light.wet_kg_m2[-1] - 0.01)

    @ON_TRAYS
    @given(rigs())
    def test_what_is_lost_was_there(self, rig: dict[str, Any]) -> None:
        """At most all water: dough's and topping's together, % of what went in."""
        result = baked(rig, 2400.0)
        dough, top = rig["dough"], rig["toppings"]
        flour = dough.mass_g / (1.0 + dough.hydration_pct / 100.0)
        water = flour * (dough.hydration_pct + 14.0) / 100.0 + top.mass_g * top.water_pct / 100.0
        self.assertLess(result.loss_pct[-1], 100.0 * water / (dough.mass_g + top.mass_g) + 1.0)


class Hearths(TestCase):
    @ON_TRAYS
    @given(rigs())
    def test_moved_air_dries_and_browns_the_rim_sooner(self, rig: dict[str, Any]) -> None:
        # In an oven that is hot: while it heats up, the still one may have more watts.
        hot = rig | {"preheat_min": 40.0}
        still, moved = (baked(hot | {"hearth": rig["hearth"] | {"fan": fan, "level": 3}}) for fan in (False, True))
        self.assertLess(moved.rim_l[-1], still.rim_l[-1] + 0.5)

    @settings(max_examples=6)
    @given(rigs())
    def test_a_quick_bake_tells_much_what_the_whole_one_does(self, rig: dict[str, Any]) -> None:
        spec = SimulateInput.model_validate(hotter(rig, 0.0) | {"hearth": Hearth.model_validate(rig["hearth"])})
        pulls = []
        for quick in (True, False):
            bake = Bake(spec, quick=quick)
            bake.advance_to(2400.0)
            pulls.append(likely_done(series(bake.trace()), target_of(spec)))
        if all(done.is_pull for done in pulls):
            self.assertAlmostEqual(pulls[0].t_s / pulls[1].t_s, 1.0, delta=0.08)
