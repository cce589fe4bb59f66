"""A light, very wet topping, put on late or early: a face of next to nothing does not throw the solver."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.heat import column as k
from mattone_engine.heat.run import Bake
from mattone_engine.things import SimulateInput


@st.composite
def light_and_wet(draw: st.DrawFn) -> dict[str, Any]:
    """A bake whose topping is a few grams and nearly all water."""
    when = draw(st.sampled_from([0.0, 60.0, 120.0, 400.0, 600.0]))
    return {
        "hearth": {"kind": draw(st.sampled_from(["electric_oven", "flame_oven", "gas_grill"])), "setpoint_c": draw(st.sampled_from([200, 250, 300]))},
        "surface": {"kind": draw(st.sampled_from(["steel", "stone"]))},
        "preheat_min": 45.0,
        "dough": {"mass_g": draw(st.floats(80, 400)), "area_cm2": 700, "hydration_pct": draw(st.floats(50, 90))},
        "toppings": {"mass_g": draw(st.sampled_from([5.0, 10.0, 20.0, 40.0])), "water_pct": draw(st.floats(80, 95))},
        "events": [{"at_s": when, "do": draw(st.sampled_from(["add_topping", "add_cheese"]))}] if when else [],
    }


class LightAndWet(TestCase):
    @settings(max_examples=120)
    @given(light_and_wet(), st.booleans())
    def test_it_bakes_within_what_there_is(self, drawn: dict[str, Any], quick: bool) -> None:
        spec = SimulateInput.model_validate(drawn)
        bake = Bake(spec, quick=quick)
        bake.advance_to(900.0)
        columns = bake._columns
        for j in range(columns.t.shape[0]):
            cells = int(columns.q[j, [k.Q_DECK_CELLS, k.Q_PAN, k.Q_DOUGH, k.Q_TOPPING]].sum())
            self.assertTrue(np.isfinite(columns.t[j, :cells]).all())
            # Nothing is colder than what came in, or hotter than a flame oven's dome; nothing holds less than no water.
            self.assertGreater(float(columns.t[j, :cells].min()), 0.0)
            self.assertLess(float(columns.t[j, :cells].max()), 600.0)
            self.assertGreaterEqual(float(columns.x[j, :cells].min()), -1e-12)
        trace = bake.trace()
        self.assertLess(max(trace.energy_closure, trace.water_closure), 1e-9)
        # A face that swings may not cost a hundred times the steps of one that does not.
        self.assertLess(trace.steps, 10_000)

    def test_the_table_of_boiling_holds_the_wettest_topping(self) -> None:
        """95 % of water is 19 kg on one of solids, and vapour from below adds to it: beyond its table a cell boiled below its boiling point."""
        self.assertGreater((k.V_STEP * (k.ROW_COUNT - 1)) ** 2, 30.0)
