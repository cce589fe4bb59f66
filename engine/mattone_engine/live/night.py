"""An evening's pizzas one after another: what the earlier ones told, and the deck that they leave.

What was read and seen of a pizza is of the same oven, cook and dough as the next: its draws go on from where the last ones
stood, but for what differs from pizza to pizza. The deck that a pizza leaves is baked once, as it most likely was; each
draw's own deck lies as far from it as it did at the launch before. So a row costs no more than its first pizza.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.heat import column as k
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import target_of
from mattone_engine.heat.parameters import parameters
from mattone_engine.heat.preheat import Preheat, recover
from mattone_engine.heat.run import Bake
from mattone_engine.heat.variation import FACTORS, SHIFTS, as_believed, varied
from mattone_engine.live.ensemble import FIRST_DRAWS, Ensemble, Truth, first_places, followed, shaken, systematic, truth_of, untold
from mattone_engine.live.following import Baked, baked, follow
from mattone_engine.live.happened import as_it_was
from mattone_engine.live.journal import Earlier, LiveInput, Reading
from mattone_engine.live.sightings import readings_ln
from mattone_engine.things import SimulateInput
from mattone_engine.things.knowledge import Knowledge

# What differs from one pizza to the next of the same evening, and how much of it stays (correlation).
EACH_ITS_OWN, STAYS = ("contact", "loading", "topping_water"), 0.5
# What a reading of the empty deck can tell of: of the oven, and of the model.
OF_THE_HEARTH = ("dial_k", "power", "top_element", "fan_film")
OF_HEATING = ("floor_view", "floor_radius", "cool_view", "layer", "ring_dull", "fan_under", "cool_view_fan")
# What of a hearth is a temperature.
_TEMPERATURES = [k.AIR, k.LINER, k.OVER]


@dataclass(frozen=True, eq=False)
class Left:
    """A pizza of the row that was pulled: the deck at its launch and as it left it, both as they most likely were; when, s since heat on."""

    launched: Preheat
    left: Preheat
    launched_s: float
    pulled_s: float


@dataclass(frozen=True, eq=False)
class Night:
    """What the pizzas so far make of the next one: places of its draws, shape (FIRST_DRAWS, ...), and the decks that they left."""

    places: np.ndarray
    row: tuple[Left, ...] = ()

    @property
    def free_s(self) -> float:
        """From when on the hearth is empty, s since heat on."""
        return self.row[-1].pulled_s if self.row else 0.0

    def heated(self, spec: SimulateInput, at_s: float, truth: Truth | None = None) -> Preheat:
        """Deck and hearth at a launch at_s after heat on, with their way there in seconds since heat on; truth: None is as told."""
        hearth = varied(spec.hearth, as_believed(spec.knowledge) if truth is None else truth.variation)
        values = None if truth is None else truth.values
        first_s = self.row[0].launched_s if self.row else at_s
        found = heat_up(spec.model_copy(update={"preheat_min": min(180.0, first_s / 60.0)}), hearth, values)
        early = tuple(event for event in spec.events if event.at_s < 0.0)
        for one, next_s in zip(self.row, [*(later.launched_s for later in self.row[1:]), at_s], strict=False):
            start = replace(one.left, profile_c=one.left.profile_c + _apart(found.profile_c, one.launched.profile_c), cavity=one.left.cavity.copy())
            start.cavity[_TEMPERATURES] += _apart(found.cavity[_TEMPERATURES], one.launched.cavity[_TEMPERATURES])
            found = recover(hearth, spec.deck, start, next_s - one.pulled_s, events=early, overhead=spec.overhead, values=values)
            found = replace(found, t_s=found.t_s + one.pulled_s)
        return found


def _apart(mine: np.ndarray, likely: np.ndarray) -> np.ndarray:
    return mine - likely if mine.shape == likely.shape else np.zeros_like(likely)


def night_of(request: LiveInput) -> Night:
    """The evening up to the pizza that is asked about; remembered, since it is asked for with every look."""
    return _after(request.plan, request.controls, request.earlier, request.seed, request.together)


@lru_cache(maxsize=24)
def _after(plan: PlanInput, controls: Controls, earlier: tuple[Earlier, ...], seed: int, together: int) -> Night:
    if not earlier:
        return Night(first_places(seed))
    before, last = _after(plan, controls, earlier[:-1], seed, together), earlier[-1]
    launched_s = last.journal.launched_s or 0.0
    baked_s = min(5400.0, last.pulled_s - launched_s)
    spec = as_it_was(LiveInput(plan=plan, controls=controls, journal=last.journal, now_s=baked_s, seed=seed, together=together))
    known, number = plan.knowledge, seed + len(earlier)
    bake = baking(spec, before, launched_s)
    first = untold_of(spec, known, before, launched_s, last.journal.readings, number)
    ensemble = follow(spec, known, last.journal, number, first=first, bake=bake)
    likely = truth_of(known, ensemble.weights @ ensemble.places)
    heated = before.heated(spec, launched_s, likely)
    one = Bake(spec, quick=True, values=likely.values, variation=likely.variation, heated=heated, balanced=False)
    one.advance_to(baked_s)
    left = Left(heated, one.left_behind(), launched_s, last.pulled_s)
    return Night(_next_places(ensemble.places, ensemble.weights, np.random.default_rng(number)), (*before.row, left))


def baking(spec: SimulateInput, night: Night, launched_s: float) -> Callable[[Truth], Baked]:
    """What a truth bakes at its place of the evening."""
    target = target_of(spec)
    return lambda truth: baked(spec, target, truth, night.heated(spec, launched_s, truth))


@lru_cache(maxsize=32)
def untold_of(spec: SimulateInput, known: Knowledge, night: Night, launched_s: float, readings: tuple[Reading, ...], seed: int) -> Ensemble[Baked]:
    """What a bake may be before anything is seen of it, its deck read so: asked for again with every look."""
    bare = spec.model_copy(update={"events": tuple(event for event in spec.events if event.at_s < 0.0)})
    return untold(known, places_after(readings, heating(bare, known, night, launched_s, readings, seed), night), baking(spec, night, launched_s))


@lru_cache(maxsize=32)
def heating(spec: SimulateInput, known: Knowledge, night: Night, until_s: float, readings: tuple[Reading, ...], seed: int) -> Ensemble[Preheat]:
    """How deck and hearth may heat until a moment, after what was read of them; places as the night's, weights."""

    def heat(truth: Truth) -> Preheat:
        return night.heated(spec, until_s, truth)

    return followed(known, seed, heat, lambda heated: readings_ln(readings, heated), first=untold(known, night.places, heat), draws=FIRST_DRAWS)


def places_after(readings: tuple[Reading, ...], heated: Ensemble[Preheat], night: Night) -> np.ndarray:
    """Places of the bakes on a deck that was read. A reading of an empty deck says nothing of the crust: of a first pizza

    everything but the heating stays as it was drawn, so that a deck far astray does not leave a few odd crusts alone.
    """
    if not readings:
        return night.places
    found = heated.places[systematic(heated.weights, np.random.default_rng(len(readings)), FIRST_DRAWS)]
    if not night.row:
        others = [i for i in range(found.shape[1]) if i not in _told_by_readings()]
        found[:, others] = night.places[:, others]
    return np.asarray(found)


def _told_by_readings() -> set[int]:
    """The columns of the places that a reading can tell of."""
    names = [*SHIFTS, *FACTORS, *parameters()]
    return {names.index(name) for name in (*OF_THE_HEARTH, *OF_HEATING)}


def _next_places(places: np.ndarray, weights: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """Places of the next pizza's draws: where the last ones' stood, with what is each pizza's own drawn partly anew."""
    found = shaken(places, weights, rng, FIRST_DRAWS)
    own = [[*SHIFTS, *FACTORS].index(name) for name in EACH_ITS_OWN]
    found[:, own] = STAYS * found[:, own] + np.sqrt(1.0 - STAYS**2) * rng.standard_normal((FIRST_DRAWS, len(own)))
    return found
