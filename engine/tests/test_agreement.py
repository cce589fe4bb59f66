"""Agreement: the same pizza, rig and knowledge have the same figures wherever they stand."""

from __future__ import annotations

from itertools import islice
from unittest import TestCase

from agreeing import at_launch, disagreements, kitchens
from mattone_engine.bake.match import plan_input
from mattone_engine.bake.plan import plan


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
