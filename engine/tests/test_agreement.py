"""Agreement: the same pizza, rig and knowledge have the same figures wherever they stand."""

from __future__ import annotations

from itertools import islice
from unittest import TestCase

from agreeing import SURFACES, at_launch, disagreements, kitchens
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.match import plan_input
from mattone_engine.bake.plan import SketchInput, plan, sketch
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.things import HearthLimits


class Agreement(TestCase):
    def test_every_view_tells_the_same_of_a_pizza(self) -> None:
        """A few drawn kitchens; `./mattone soak plans` draws five hundred."""
        for known, rig in islice(kitchens(31), 24):
            with self.subTest(known.key, hearth=rig.hearth.kind, surface=rig.surface, pan=rig.pan):
                self.assertEqual(disagreements(known, rig), [])

    def test_a_bake_at_its_launch_tells_what_its_plan_told(self) -> None:
        for known, rig in islice(kitchens(32), 3):
            request = plan_input(known, rig, 0.0)
            told = plan(request)
            with self.subTest(known.key, hearth=rig.hearth.kind, surface=rig.surface, pan=rig.pan):
                self.assertEqual(at_launch(request.model_copy(update={"controls": told.controls}), told), [])


class AsTyped(TestCase):
    @settings(max_examples=20)
    @given(st.integers(300, 525), st.integers(1, 5), st.integers(10, 90))
    def test_what_a_cook_typed_comes_back_as_it_was(self, dial_f: int, level: int, minutes: int) -> None:
        """A dial in Fahrenheit, a level and minutes: in the answer's controls, on the card, and in the bake that is planned with them."""
        controls = Controls(setpoint_c=(dial_f - 32) / 1.8, level=level, preheat_min=minutes)
        asked = PlanInput(hearth=HearthLimits(max_setpoint_c=275.0), surface=SURFACES[2], controls=controls)
        told = sketch(SketchInput(plan=asked, look_from=0.8, window_end=1.3))
        self.assertEqual(told.controls, controls)
        spec = bake_of(asked, told.controls)
        self.assertEqual((spec.hearth.setpoint_c, spec.hearth.level, spec.preheat_min), (controls.setpoint_c, level, minutes))
        heat = next(step.text for step in told.card if step.kind == "heat")
        shown_f = float(heat.split("{")[1].split(" C}")[0]) * 1.8 + 32
        self.assertEqual(round(shown_f), dial_f, heat)
        self.assertTrue(heat.startswith(f"{minutes} min "), heat)
        self.assertIn(f"level {level}", " ".join(step.text for step in told.card))
