"""Every rig and every control: balances hold, and what cooks do has the effect they do it for."""

import json
import math
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.match import portion
from mattone_engine.bake.row import RowInput, on_the_warm_tray, row
from mattone_engine.bake.simulate import simulate
from mattone_engine.heat.formula_effects import browning_factor, drying_factor
from mattone_engine.heat.outcome import series
from mattone_engine.heat.run import Bake
from mattone_engine.styles import styles
from mattone_engine.things import Dough, Event, Hearth, Overhead, Pan, SimulateInput, Surface, Toppings
from pydantic import ValidationError
from rigs import bake_on

PANS = ["cast_iron", "dark_aluminium", "bright_aluminium", "blue_steel", "thin_tray"]
SPREAD = (0.75, 1.35)


def result(spec: SimulateInput, until_s: float = 480.0):  # type: ignore[no-untyped-def]
    bake = Bake(spec)
    bake.advance_to(until_s)
    return series(bake.trace())


def in_pan(**changes: Any) -> SimulateInput:
    given: dict[str, Any] = {
        "hearth": Hearth(setpoint_c=250, level=2),
        "surface": None,
        "pan": Pan(kind="cast_iron", thickness_mm=5),
        "dough": Dough(mass_g=318, area_cm2=531, hydration_pct=72, oil_pct=3, shape="pan"),
        "style": "cast_iron_pan",
    }
    return SimulateInput(**(given | changes))


class AnyRig(TestCase):
    @settings(max_examples=60)
    @given(data=st.data())
    def test_energy_and_water_close_and_nothing_is_lost(self, data: st.DataObject) -> None:
        draw = data.draw
        kind = draw(st.sampled_from(["electric_oven", "gas_oven", "countertop_oven", "flame_oven", "gas_grill", "charcoal_grill"]))
        flame = kind in ("flame_oven", "gas_grill", "charcoal_grill")
        hearth = Hearth(
            kind=kind, level=1, uneven=draw(st.sampled_from([0.0, 0.35])), fan=not flame and draw(st.booleans()), setpoint_c=draw(st.floats(180, 300)),
            floor_c=draw(st.floats(250, 450)) if flame else None, dome_c=draw(st.floats(250, 520)) if flame else None,
        )  # fmt: skip
        surface = draw(st.sampled_from([None, "stone", "steel", "firebrick", "upturned_tray"]))
        pan = draw(st.sampled_from(PANS)) if surface is None else draw(st.sampled_from([None, *PANS]))
        events = [Event(at_s=draw(st.floats(30, 200)), do="turn"), Event(at_s=draw(st.floats(30, 200)), do="door", seconds=20)]
        if draw(st.booleans()):
            events.append(Event(at_s=draw(st.floats(20, 200)), do="add_topping"))
        if pan is not None and draw(st.booleans()):
            events.append(Event(at_s=draw(st.floats(-240, 150)), do="hob_on", power_kw=1.2))
            events.append(Event(at_s=draw(st.floats(151, 230)), do="hob_off"))
        if not flame and draw(st.booleans()):
            events.append(Event(at_s=draw(st.floats(0, 100)), do="top_element_on"))
        spec = SimulateInput(
            hearth=hearth,
            surface=Surface(kind=surface, thickness_mm=draw(st.floats(2, 30))) if surface else None,
            pan=Pan(kind=pan, thickness_mm=draw(st.floats(0.5, 6)), preheated=draw(st.booleans())) if pan else None,
            dough=Dough(mass_g=draw(st.floats(90, 450)), area_cm2=600, shape=draw(st.sampled_from(["hand", "rolled", "pan"])), oil_pct=draw(st.floats(0, 8))),
            toppings=Toppings(mass_g=draw(st.floats(0, 400)), water_pct=draw(st.floats(30, 90))),
            other_half=draw(st.sampled_from([None, Toppings(mass_g=90, water_pct=50), Toppings(mass_g=0)])),
            overhead=Overhead(kind="stone", thickness_mm=12, level=3) if not flame and draw(st.booleans()) else None,
            events=tuple(events),
            preheat_min=20,
            altitude_m=draw(st.sampled_from([0.0, 2500.0])),
        )
        bake = Bake(spec, quick=draw(st.booleans()))
        bake.advance_to(300)
        trace = bake.trace()
        self.assertLess(trace.energy_closure, 1e-9)
        self.assertLess(trace.water_closure, 1e-9)
        self.assertTrue(np.isfinite(trace.rows).all())
        self.assertTrue((np.diff(trace.t_s) > 0).all())
        self.assertTrue((trace.rows[:, :, 2:4] > 0).all())


class Controls(TestCase):
    def test_a_hob_start_fries_the_base_sooner(self) -> None:
        plain, fried = result(in_pan(), 600), result(in_pan(events=(Event(at_s=-180, do="hob_on", power_kw=1.4),)), 600)
        self.assertEqual(fried.t_s[0], -180)
        self.assertLess(fried.base_l[-1], plain.base_l[-1] - 3)
        # The rim hardly knows of it.
        self.assertAlmostEqual(fried.rim_l[-1], plain.rim_l[-1], delta=4)

    def test_a_par_bake_sets_the_base_and_spares_the_cheese(self) -> None:
        at_once, later = result(bake_on()), result(bake_on(events=(Event(at_s=150, do="add_topping"),)))
        self.assertGreater(later.cheese_l[-1], at_once.cheese_l[-1])
        soon = int(np.argmax(later.t_s >= 140))
        self.assertGreater(later.core_c[soon], float(np.interp(140, at_once.t_s, at_once.core_c)))

    def test_an_open_door_costs_heat(self) -> None:
        shut, open_ = result(bake_on()), result(bake_on(events=(Event(at_s=200, do="door", seconds=60),)))
        self.assertLess(float(np.interp(262, open_.t_s, open_.air_c)), float(np.interp(262, shut.t_s, shut.air_c)) - 15)
        # The thermostat answers: what the door cost is back within minutes.
        self.assertAlmostEqual(float(open_.air_c[-1]), float(shut.air_c[-1]), delta=20)

    def test_a_turn_evens_out_an_uneven_hearth(self) -> None:
        hot = Hearth(setpoint_c=260, level=4, uneven=0.5)
        glow = Event(at_s=0, do="top_element_on")
        never, once = result(bake_on(hearth=hot, events=(glow,)), 240), result(bake_on(hearth=hot, events=(glow, Event(at_s=110, do="turn"))), 240)
        even = result(bake_on(hearth=Hearth(setpoint_c=260, level=4), events=(glow,)), 240)
        worst = [float(s.rim_l[-1] - s.hot_rim_l[-1]) for s in (never, once, even)]
        self.assertGreater(worst[0], 2 * worst[1])
        self.assertEqual(worst[2], 0.0)

    def test_a_second_deck_is_a_warm_ceiling_and_hides_the_element(self) -> None:
        glow = (Event(at_s=0, do="top_element_on"),)
        hearth, deck = Hearth(setpoint_c=260, level=2), Overhead(kind="stone", thickness_mm=12, level=4)
        bare, under = (result(bake_on(hearth=hearth, overhead=o, events=glow, preheat_min=70), 300) for o in (None, deck))
        self.assertGreater(under.rim_l[-1], bare.rim_l[-1])
        # Without the element it is warmer than what it hides: the door's glass and the cooler walls.
        bare, under = (result(bake_on(hearth=hearth, overhead=o, preheat_min=90)) for o in (None, deck))
        self.assertTrue(bare.rim_l[-1] - 15.0 < under.rim_l[-1] < bare.rim_l[-1], (under.rim_l[-1], bare.rim_l[-1]))

    def test_a_preheated_pan_starts_the_base(self) -> None:
        cold, hot = result(in_pan(), 420), result(in_pan(pan=Pan(kind="cast_iron", thickness_mm=5, preheated=True)), 420)
        self.assertLess(hot.base_l[-1], cold.base_l[-1] - 3)

    def test_halves_differ_as_their_toppings_do(self) -> None:
        same = result(bake_on(other_half=Toppings(mass_g=160)))
        plain = result(bake_on())
        np.testing.assert_allclose(same.base_l[-1], plain.base_l[-1], atol=1e-6)
        crust = simulate(bake_on(other_half=Toppings(mass_g=320, water_pct=85)), spread=SPREAD).at_done
        dry, wet = crust.halves
        self.assertGreater(wet.gummy_kg_m2, dry.gummy_kg_m2)
        self.assertGreater(wet.cheese_l, dry.cheese_l)
        self.assertEqual(crust.gummy_kg_m2, max(dry.gummy_kg_m2, wet.gummy_kg_m2))


class InARow(TestCase):
    def test_the_deck_falls_and_comes_back(self) -> None:
        """A drop of 20-60 K at the face, back within 10 K in 3-14 min."""
        for surface in (Surface(kind="steel", thickness_mm=10), Surface(kind="stone", thickness_mm=15)):
            asked = bake_on(surface, hearth=Hearth(setpoint_c=260, level=2), preheat_min=60)
            waited = row(RowInput(bake=asked, count=3)).launches
            for launch in waited:
                self.assertTrue(15 < launch.drop_k < 65, f"{surface.kind}: {launch.drop_k}")
                assert launch.back_min is not None
                self.assertTrue(2 < launch.back_min < 14, f"{surface.kind}: {launch.back_min}")
            hurried = row(RowInput(bake=asked, count=3, gap_min=0.5)).launches
            self.assertLess(hurried[2].deck_at_launch_c, waited[2].deck_at_launch_c)
            self.assertGreater(waited[1].launch_s, waited[0].likely_done_s)


class Formula(TestCase):
    @given(low=st.floats(0, 1), high=st.floats(0, 1))
    def test_effects_are_monotonic_and_bounded(self, low: float, high: float) -> None:
        low, high = min(low, high), max(low, high)
        for field, most in (("sugar_pct", 15.0), ("milk_pct", 100.0), ("malt_pct", 5.0), ("cold_days", 7.0), ("oil_pct", 20.0)):
            a, b = (browning_factor(Dough.model_validate({field: most * v})) for v in (low, high))
            self.assertTrue(1.0 <= a <= b <= 1.5)
        for field, most in (("paste_pct", 30.0), ("oil_pct", 20.0)):
            a, b = (drying_factor(Dough.model_validate({field: most * v})) for v in (low, high))
            self.assertTrue(0.7 <= b <= a <= 1.0)

    def test_a_rich_dough_browns_sooner_and_a_scalded_one_dries_less(self) -> None:
        lean, rich = result(bake_on()), result(bake_on(dough=Dough(mass_g=250, area_cm2=707, milk_pct=40, malt_pct=0.5)))
        self.assertLess(rich.rim_l[-1], lean.rim_l[-1])
        scalded = result(bake_on(dough=Dough(mass_g=250, area_cm2=707, paste_pct=20)))
        self.assertLessEqual(scalded.loss_pct[-1], lean.loss_pct[-1] + 0.05)


class Refusals(TestCase):
    def test_rigs_that_cannot_be_are_refused_by_name(self) -> None:
        base = json.loads(bake_on().model_dump_json())
        on_rack = {"surface": None, "pan": {"kind": "cast_iron", "thickness_mm": 5.0}}
        cases: list[tuple[dict[str, Any], str]] = [
            ({"events": [{"at_s": -60, "do": "hob_on", "power_kw": 1.5}]}, "stone does not belong on a hob"),
            (on_rack | {"events": [{"at_s": -60, "do": "hob_on"}]}, "power_kw"),
            ({"overhead": {"kind": "steel", "level": 6}}, "second deck is on level 6"),
            ({"overhead": {"kind": "steel", "level": 4}, "events": [{"at_s": 60, "do": "move", "level": 5}]}, "second deck lies on level 4"),
            ({"dough": {"mass_g": 900.0, "area_cm2": 1900.0}}, "does not fit an electric oven"),
            ({"hearth": {"kind": "gas_grill"}, "overhead": {"kind": "steel", "level": 4}}, "has no rack for a second deck"),
            ({"events": [{"at_s": -5, "do": "add_topping"}]}, "after launch"),
            ({"events": [{"at_s": 50, "do": "add_topping"}, {"at_s": 90, "do": "add_topping"}]}, "once"),
            ({"events": [{"at_s": float(i), "do": "turn"} for i in range(60)]}, "at most 40"),
        ]
        for change, message in cases:
            with self.subTest(message), self.assertRaisesRegex(ValidationError, message):
                SimulateInput.model_validate_json(json.dumps(base | change))


class OnTrays(TestCase):
    def tray(self, key: str = "thin_crisp", **more: object) -> SimulateInput:
        dough, toppings = portion(styles()[key], 900.0)
        return SimulateInput.model_validate({
            "hearth": Hearth(setpoint_c=240.0, level=2), "pan": Pan(kind="thin_tray", thickness_mm=0.8), "dough": dough, "toppings": toppings, "style": key,
            **more,
        })  # fmt: skip

    def test_trays_go_in_two_at_a_time_and_an_odd_last_one_alone(self) -> None:
        """What two take longer is in the plan of the row: one kilowatt of oven for twice the food."""
        found = row(RowInput(bake=self.tray(), count=5, together=2))
        self.assertEqual((found.together, len(found.launches)), (2, 5))
        starts = [one.launch_s for one in found.launches]
        self.assertEqual((starts[0], starts[2], starts[4] > starts[3]), (starts[1], starts[3], True))
        self.assertGreater(starts[2], starts[0] + found.launches[0].likely_done_s)
        alone = row(RowInput(bake=self.tray(), count=1))
        self.assertEqual(alone.together, 1)
        self.assertGreater(found.launches[0].likely_done_s, alone.launches[0].likely_done_s)

    def test_the_second_on_the_same_tray_starts_on_a_warm_one(self) -> None:
        three = Hearth(setpoint_c=240.0, level=2, levels=3)
        spec = self.tray(hearth=three)
        soon, late = (row(RowInput(bake=spec, count=2, gap_min=gap)).launches for gap in (2.0, 40.0))
        self.assertLess(soon[1].likely_done_s, soon[0].likely_done_s)
        self.assertLess(soon[1].likely_done_s, late[1].likely_done_s)
        # The closed form: by one time constant of the bare tray the gap to the kitchen falls to 1 / e.
        assert spec.pan is not None
        metal = spec.pan.traits.material
        tau_s = metal.density * metal.heat * 0.8e-3 / 24.0
        warm = on_the_warm_tray(spec, 182.0, tau_s)
        assert warm.pan is not None
        self.assertAlmostEqual(warm.pan.start_c, 22.0 + 160.0 / math.e, delta=0.06)
        proved = self.tray("cast_iron_pan", pan=Pan(kind="cast_iron", thickness_mm=5.0), dough=styles()["cast_iron_pan"].dough())
        self.assertIs(on_the_warm_tray(proved, 200.0, 60.0), proved, "a dough that proves in its pan lies in a cool one")

    def test_a_floor_that_is_not_back_is_said_to_be_so(self) -> None:
        dough, toppings = portion(styles()["neapolitan"], None)
        fire = SimulateInput(
            hearth=Hearth(kind="flame_oven", floor_c=430.0, dome_c=480.0), surface=Surface(kind="firebrick", thickness_mm=12.0), preheat_min=30.0,
            dough=dough, toppings=toppings, style="neapolitan",
        )  # fmt: skip
        found = row(RowInput(bake=fire, count=3))
        cooler = found.launches[0].deck_at_launch_c - found.launches[1].deck_at_launch_c
        self.assertTrue(abs(cooler) <= 10.0 or "floor is still" in found.say, (cooler, found.say))
        self.assertTrue(found.launches[0].back_min is None or abs(cooler) <= 10.5)
