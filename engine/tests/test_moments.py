"""The crust's own moments: where a bake reaches them, and that they are where its curves are."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.moments import kinds, moments
from mattone_engine.bake.simulate import simulate
from mattone_engine.heat.colour import colour_word
from mattone_engine.heat.outcome import crossed_s, series
from mattone_engine.heat.properties import boiling_c
from mattone_engine.heat.run import Bake
from mattone_engine.things import Dough, Event, Pan, Surface
from mattone_engine.things.air import pressure_pa
from mattone_engine.things.bake import SimulateInput
from rigs import bake_on


def bakes() -> st.SearchStrategy[SimulateInput]:
    """Rounds, thick and thin, wet and dry, on decks from cool to very hot, at the sea and on mountains."""
    return st.builds(
        lambda deck_c, mass_g, hydration, altitude_m: bake_on(
            Surface(kind="steel", thickness_mm=8, deck_c=deck_c), dough=Dough(mass_g=mass_g, area_cm2=707, hydration_pct=hydration), altitude_m=altitude_m
        ),
        st.floats(180, 400),
        st.floats(170, 420),
        st.floats(52, 82),
        st.floats(0, 3500),
    )


class Crossing(TestCase):
    @given(st.floats(-5, 5), st.floats(0.1, 4), st.floats(-20, 30))
    def test_of_a_straight_line_is_where_it_was_drawn(self, start: float, slope: float, bound: float) -> None:
        t_s = np.linspace(0.0, 20.0, 41)
        found = crossed_s(t_s, start + slope * t_s, bound)
        closed = (bound - start) / slope
        if closed > 20.0 + 1e-9:
            self.assertIsNone(found)
        elif abs(closed - 20.0) > 1e-6:
            assert found is not None
            self.assertAlmostEqual(found, max(0.0, closed), places=6)


class OfABake(TestCase):
    @settings(max_examples=12)
    @given(bakes())
    def test_each_lies_on_the_curve_it_is_drawn_on_and_in_the_order_of_nature(self, spec: SimulateInput) -> None:
        told = simulate(spec, spread=(0.9, 1.1))
        found = {moment.key: moment for moment in told.moments}
        times = [moment.at_s for moment in told.moments]
        self.assertEqual(times, sorted(times))
        crumb = [found[key].at_s for key in ("yeast", "starch", "boils") if key in found]
        self.assertEqual(crumb, sorted(crumb))
        if "burns" in found:
            self.assertLess(found["browns"].at_s, found["burns"].at_s)
        t = told.traces
        for moment in told.moments:
            if moment.part == "crumb":
                self.assertAlmostEqual(float(np.interp(moment.at_s, t.t_s, t.core_c)), moment.temp_c, delta=0.5)
            elif moment.part == "base":
                self.assertAlmostEqual(float(np.interp(moment.at_s, t.t_s, t.base_c)), moment.temp_c, delta=1.0)
            if moment.key == "burns":
                l_star = t.base_l if moment.part == "base" else t.rim_l
                before, after = (float(np.interp(moment.at_s + by, t.t_s, l_star)) for by in (-3.0, 3.0))
                self.assertNotIn(colour_word(before), ("dark", "charred"))
                self.assertIn(colour_word(after), ("dark", "charred"))
        # No skin browns while it is wet: it is well over boiling by then.
        if "browns" in found:
            self.assertGreater(found["browns"].temp_c, boiling_c(pressure_pa(spec.altitude_m)) + 10.0)

    def test_a_mountain_boils_cooler_and_by_the_same_law(self) -> None:
        for altitude_m in (0.0, 1900.0, 3500.0):
            told = {m.key: m for m in simulate(bake_on(altitude_m=altitude_m), spread=(0.9, 1.1)).moments}
            self.assertAlmostEqual(told["boils"].temp_c, boiling_c(pressure_pa(altitude_m)) - 2.0, delta=0.06)
            self.assertEqual((told["yeast"].temp_c, told["starch"].temp_c), (55.0, 70.0))

    def test_what_a_bake_does_not_reach_is_not_told(self) -> None:
        bake = Bake(bake_on())
        bake.advance_to(45.0)
        early = [moment.key for moment in moments(series(bake.trace()), 0.0)]
        bake.advance_to(1500.0)
        whole = [moment.key for moment in moments(series(bake.trace()), 0.0)]
        self.assertNotIn("burns", early)
        self.assertEqual(set(whole), set(kinds()))
        # What was reached stays where it was, however long it is baked on.
        self.assertEqual(early, whole[: len(early)])

    def test_a_pan_on_the_hob_has_them_before_its_launch(self) -> None:
        pan = Pan(kind="cast_iron", thickness_mm=4)
        cold = bake_on(None, pan=pan, dough=Dough(mass_g=200, area_cm2=500), style="cast_iron_pan")
        hob = cold.model_copy(update={"events": (Event(at_s=-240.0, do="hob_on", power_kw=1.8),)})
        without, with_it = ({m.key: m.at_s for m in simulate(spec, spread=(0.9, 1.1)).moments} for spec in (cold, hob))
        self.assertLess(with_it["browns"], without["browns"])
        self.assertLess(with_it["browns"], 60.0)
        self.assertGreater(min(without.values()), 0.0)

    def test_every_moment_has_two_words_and_one_sentence(self) -> None:
        for kind in kinds().values():
            self.assertEqual(len(kind.name.split()), 2)
            self.assertEqual(kind.why.count("."), 1)
            self.assertTrue(kind.why.endswith("."))
            marks = (kind.core_c, kind.below_boiling_k, kind.fallen_l, kind.word)
            self.assertEqual(sum(mark is not None for mark in marks), 1)
