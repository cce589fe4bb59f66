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
from mattone_engine.heat.variation import FACTORS, SHIFTS, as_believed, deck_as_is, varied
from mattone_engine.live.ensemble import (
    DONE,
    DOUGH_FAULT,
    FIRST_DRAWS,
    HEARTH_FAULT,
    HEARTH_SIZE,
    Ensemble,
    Truth,
    allotted,
    first_places,
    first_weights,
    followed,
    middle_of,
    shaken,
    systematic,
    truth_of,
    untold,
)
from mattone_engine.live.faults import faults
from mattone_engine.live.following import Baked, baked, follow
from mattone_engine.live.happened import as_it_was
from mattone_engine.live.journal import Earlier, LiveInput, Reading
from mattone_engine.live.sightings import readings_ln
from mattone_engine.supper.lots import of_size
from mattone_engine.things import SimulateInput
from mattone_engine.things.knowledge import Knowledge

# What differs from one pizza to the next of the same evening, and how much of it stays (correlation).
EACH_ITS_OWN, STAYS = ("contact", "loading", "topping_water"), 0.5
# What a reading of the empty deck can tell of: of the oven, and of the model.
OF_THE_HEARTH = ("dial_k", "power", "top_element", "fan_film")
OF_HEATING = ("floor_view", "floor_radius", "cool_view", "layer", "ring_dull", "fan_under", "cool_view_fan")
# A fault that the readings leave any room for keeps so many draws.
LEAST_DRAWS = 6
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
    """What the pizzas so far make of the next one: places of its draws, shape (FIRST_DRAWS, PLACED), what they weigh, and the decks left."""

    places: np.ndarray
    row: tuple[Left, ...] = ()

    @property
    def weights(self) -> np.ndarray:
        """What its draws weigh, sum 1: first ones as `first_weights` says, later ones alike."""
        return np.full(len(self.places), 1.0 / len(self.places)) if self.row else first_weights(self.places)

    @property
    def free_s(self) -> float:
        """From when on the hearth is empty, s since heat on."""
        return self.row[-1].pulled_s if self.row else 0.0

    def heated(self, spec: SimulateInput, at_s: float, truth: Truth | None = None) -> Preheat:
        """Deck and hearth at a launch at_s after heat on, with their way there in seconds since heat on; truth: None is as told."""
        hearth = varied(spec.hearth, as_believed(spec.knowledge) if truth is None else truth.variation)
        spec = spec if truth is None else deck_as_is(spec, truth.variation)
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
    mine = of_size(plan, last.size) if last.size is not None else plan
    spec = as_it_was(LiveInput(plan=mine, controls=controls, journal=last.journal, now_s=baked_s, seed=seed, together=together))
    known, number = plan.knowledge, seed + len(earlier)
    bake = baking(spec, before, launched_s)
    first = untold_of(spec, known, before, launched_s, last.journal.readings, number)
    ensemble = follow(spec, known, last.journal, number, first=first, bake=bake)
    likely = truth_of(known, middle_of(ensemble))
    heated = before.heated(spec, launched_s, likely)
    one = Bake(deck_as_is(spec, likely.variation), quick=True, values=likely.values, variation=likely.variation, heated=heated, balanced=False)
    one.advance_to(baked_s)
    left = Left(heated, one.left_behind(), launched_s, last.pulled_s)
    return Night(_next_places(ensemble.places, ensemble.weights, np.random.default_rng(number)), (*before.row, left))


def baking(spec: SimulateInput, night: Night, launched_s: float, if_done: SimulateInput | None = None) -> Callable[[Truth], Baked]:
    """What a truth bakes at its place of the evening; if_done: the bake where what is overdue was done, of those truths in which it was."""
    target = target_of(spec)

    def bake(truth: Truth) -> Baked:
        mine = if_done if if_done is not None and truth.did_overdue else spec
        return baked(mine, target, truth, night.heated(mine, launched_s, truth))

    return bake


@lru_cache(maxsize=32)
def untold_of(
    spec: SimulateInput,
    known: Knowledge,
    night: Night,
    launched_s: float,
    readings: tuple[Reading, ...],
    seed: int,
    if_done: SimulateInput | None = None,
) -> Ensemble[Baked]:
    """What a bake may be before anything is seen of it, its deck read so: asked for again with every look."""
    bare = spec.model_copy(update={"events": tuple(event for event in spec.events if event.at_s < 0.0)})
    places, weights = places_after(readings, heating(bare, known, night, launched_s, readings, seed), night)
    return untold(known, places, baking(spec, night, launched_s, if_done), weights)


@lru_cache(maxsize=32)
def heating(spec: SimulateInput, known: Knowledge, night: Night, until_s: float, readings: tuple[Reading, ...], seed: int) -> Ensemble[Preheat]:
    """How deck and hearth may heat until a moment, after what was read of them; places as the night's, weights."""

    def heat(truth: Truth) -> Preheat:
        return night.heated(spec, until_s, truth)

    first = untold(known, night.places, heat, night.weights)
    return followed(known, seed, heat, lambda heated: np.array([readings_ln(readings, one) for one in heated]), first=first, draws=FIRST_DRAWS)


def places_after(readings: tuple[Reading, ...], heated: Ensemble[Preheat], night: Night) -> tuple[np.ndarray, np.ndarray]:
    """Places of the bakes on a deck that was read, and what they weigh. A reading of an empty deck says nothing of the crust: of a first

    pizza everything but the heating stays as it was drawn, so that a deck far astray does not leave a few odd crusts alone. Every fault
    of the hearth keeps some draws, however little they weigh: a look may show later what the readings could not.
    """
    if not readings:
        return night.places, night.weights
    rng, count = np.random.default_rng(len(readings)), len(night.places)
    if night.row:
        return heated.places[systematic(heated.weights, rng, count)], np.full(count, 1.0 / count)
    fault = heated.places[:, HEARTH_FAULT]
    kinds = np.unique(fault)
    masses = np.array([float(heated.weights[fault == kind].sum()) for kind in kinds])
    shares = allotted(masses, count, LEAST_DRAWS)
    order, at = rng.permutation(count), 0
    found, weights, of_dough = night.places.copy(), np.zeros(count), _of_dough(night.places)
    for kind, mass, share in zip(kinds, masses, shares, strict=True):
        mine, theirs = order[at : at + share], np.flatnonzero(fault == kind)
        at += share
        if not share:
            continue
        picked = heated.places[theirs[systematic(heated.weights[theirs] / mass, rng, int(share))]]
        found[np.ix_(mine, np.array(_SHOWN))] = picked[:, _SHOWN]
        weights[mine] = of_dough[mine] * mass / share
    return found, weights / weights.sum()


def _of_dough(places: np.ndarray) -> np.ndarray:
    """What first draws weigh by their dough's fault alone, against 1 of one without, shape (draws,)."""
    number = places[:, DOUGH_FAULT].astype(int)
    count = np.maximum(1, np.bincount(number, minlength=len(faults()) + 1))
    shares = np.array([1.0, *(fault.share * len(places) for fault in faults())])
    shares[1:] /= count[1:]
    return np.asarray(shares[number])


# The columns of the places that a reading of the deck can show.
_COLUMNS = [*SHIFTS, *FACTORS, *parameters()]
_SHOWN = [*(_COLUMNS.index(name) for name in (*OF_THE_HEARTH, *OF_HEATING)), HEARTH_FAULT, HEARTH_SIZE]


def _next_places(places: np.ndarray, weights: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """Places of the next pizza's draws: where the last ones' stood, with what is each pizza's own drawn partly anew."""
    found = shaken(places, weights, rng, FIRST_DRAWS)
    own = [[*SHIFTS, *FACTORS].index(name) for name in EACH_ITS_OWN]
    found[:, DONE] = rng.permutation(np.arange(FIRST_DRAWS) % 2)
    found[:, own] = STAYS * found[:, own] + np.sqrt(1.0 - STAYS**2) * rng.standard_normal((FIRST_DRAWS, len(own)))
    return found
