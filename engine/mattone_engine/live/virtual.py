"""An evening without an oven: a hidden hearth and dough that bake as they are, a thermometer and a cook's eyes that see them as through a kitchen's air."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.simulate import horizon_s
from mattone_engine.heat.outcome import Series, likely_done, series, target_of
from mattone_engine.heat.run import Bake
from mattone_engine.knowledge.truths import STRAYING, drawn, strayed_values
from mattone_engine.live.ensemble import Truth
from mattone_engine.live.journal import Look
from mattone_engine.live.night import Left, Night
from mattone_engine.live.sightings import EYE_CHEESE_L, EYE_L, READING_K, SWATCHES_L
from mattone_engine.things import Event, SimulateInput


class Hidden:
    """What really is in the oven of one evening. Nobody is told of it but through `read` and `look`; seed: which one it is."""

    def __init__(self, plan: PlanInput, controls: Controls, seed: int) -> None:
        rng = np.random.default_rng(seed)
        self.spec = bake_of(plan, controls)
        self.truth = Truth(drawn(plan.knowledge, rng), strayed_values(rng.standard_normal(STRAYING), plan.knowledge))
        self._rng, self._night = rng, Night(np.zeros((0, 0)))

    def deck_c(self, since_heat_s: float) -> float:
        """The empty deck's face so long after heat on, C."""
        bare = self.spec.model_copy(update={"events": ()})
        return float(self._night.heated(bare, max(1.0, since_heat_s), self.truth).deck_c[-1])

    def read(self, since_heat_s: float) -> float:
        """The same by an instrument, C."""
        return round(self.deck_c(since_heat_s) + 0.5 * READING_K["infrared"] * float(self._rng.standard_normal()), 1)

    def baked(self, launched_s: float, done: Sequence[Event], at_s: float) -> tuple[Bake, Series]:
        """The pizza at hand, launched launched_s after heat on, with these controls given, at_s after its launch."""
        spec = SimulateInput.model_validate({**dict(self.spec), "events": tuple(sorted(done, key=lambda e: e.at_s))})
        heated = self._night.heated(spec, launched_s, self.truth)
        bake = Bake(spec, quick=True, values=self.truth.values, variation=self.truth.variation, heated=heated, balanced=False)
        bake.advance_to(max(1.0, at_s))
        return bake, series(bake.trace(balanced=False))

    def look(self, launched_s: float, done: Sequence[Event], at_s: float) -> Look:
        """The nearest swatches, as an eye in a kitchen takes them."""
        _, result = self.baked(launched_s, done, at_s)

        def seen(l_star: float, eye_l: float) -> float:
            taken = l_star + eye_l * float(self._rng.standard_normal())
            return min(SWATCHES_L, key=lambda one: abs(one - taken))

        return Look(base=seen(float(result.base_l[-1]), EYE_L), rim=seen(float(result.rim_l[-1]), EYE_L), cheese=seen(float(result.cheese_l[-1]), EYE_CHEESE_L))

    def right_pull_s(self, launched_s: float, done: Sequence[Event]) -> float:
        """When this pizza is nearest the wanted crust, s after its launch: what a debriefing tells."""
        _, result = self.baked(launched_s, done, horizon_s(self.spec))
        return likely_done(result, target_of(self.spec)).t_s

    def pull(self, launched_s: float, done: Sequence[Event], at_s: float) -> None:
        """It comes out; the deck is left as it is for the next one."""
        bake, _ = self.baked(launched_s, done, at_s)
        heated = self._night.heated(bake.spec, launched_s, self.truth)
        left = Left(heated, bake.left_behind(), launched_s, launched_s + at_s)
        self._night = Night(self._night.places, (*self._night.row, left))
