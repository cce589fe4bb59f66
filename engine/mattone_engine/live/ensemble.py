"""Many bakes that one bake may really be: drawn from what is known, weighed by what is told, drawn anew where few are left.

Each draw differs in what `Knowledge` is unsure of and in the model's own parameters, strayed inside their ranges as in
`coverage`. Evidence raises its power step by step until all of it counts (tempering: Del Moral, Doucet & Jasra 2006);
where the weights thin, draws are taken anew and shaken with shrinkage (Liu & West 2001), so that a bake that goes far
astray is followed. Everything told is weighed at once: its order does not matter.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

import numpy as np

from mattone_engine.bake.parallel import in_parallel
from mattone_engine.heat.variation import Variation
from mattone_engine.knowledge.truths import DRAWN, STRAYING, strayed_values, truth_at
from mattone_engine.live.faults import faults
from mattone_engine.things.knowledge import Knowledge

Told = TypeVar("Told")

# Before anything is told there are so many that a look leaves enough of them; drawn anew, fewer do.
FIRST_DRAWS, DRAWS = 256, 48
# With fewer effective draws than these they are drawn anew, at most so many times.
ENOUGH, ROUNDS = 18.0, 6
TAIL = 0.003
# After what is normally spread a place carries a fault of the hearth and one of the dough (0: none, else its place in `faults()`, counted
# from 1), how much of each (0 to 1), and whether what is overdue and unconfirmed was done (1) or not (0). Faults stay as they were drawn.
SMOOTH = DRAWN + STRAYING
HEARTH_FAULT, HEARTH_SIZE, DOUGH_FAULT, DOUGH_SIZE, DONE = range(SMOOTH, SMOOTH + 5)
PLACED = SMOOTH + 5
# How much of each draw's own place stays when it is shaken (Liu & West: discount 0.95).
KEPT = 0.974


@dataclass(frozen=True)
class Truth:
    """One bake it may be: how it differs from what its cook entered, and the model's parameters.

    did_overdue: what is overdue and unconfirmed was done at its time.
    """

    variation: Variation
    values: dict[str, float]
    did_overdue: bool = False


@dataclass(frozen=True)
class Ensemble(Generic[Told]):
    """Draws, shape (draws, PLACED), what each bakes, and their weights, sum 1."""

    places: np.ndarray
    told: list[Told]
    weights: np.ndarray


def truth_of(known: Knowledge, place: np.ndarray) -> Truth:
    """The bake at one place, shape (PLACED,)."""
    variation = truth_at(known, place[:DRAWN])
    for number, size in ((HEARTH_FAULT, HEARTH_SIZE), (DOUGH_FAULT, DOUGH_SIZE)):
        if fault := round(place[number]):
            variation = faults()[fault - 1].applied(variation, float(place[size]))
    return Truth(variation, strayed_values(place[DRAWN:SMOOTH], known), bool(place[DONE] > 0.5))


def first_places(seed: int, draws: int = FIRST_DRAWS) -> np.ndarray:
    """Places drawn before anything is known; in pairs on either side of the mean, so that few draws are fair."""
    rng = np.random.default_rng(seed)
    half = rng.standard_normal((draws // 2, SMOOTH))
    found = np.zeros((2 * (draws // 2), PLACED))
    found[:, :SMOOTH] = np.concatenate([half, -half])
    # Faults go to pairs spread over all of them; each fault's sizes are spread evenly.
    order, at = rng.permutation(draws // 2), 0
    share = draws / FIRST_DRAWS
    for number, fault in enumerate(faults(), start=1):
        pairs = order[at : at + max(1, round(0.5 * share * fault.draws))]
        mine = np.concatenate([pairs, pairs + draws // 2])
        found[mine, HEARTH_FAULT if fault.of_hearth else DOUGH_FAULT] = number
        found[mine, HEARTH_SIZE if fault.of_hearth else DOUGH_SIZE] = (rng.permutation(mine.size) + rng.random(mine.size)) / mine.size
        at += pairs.size
    found[:, DONE] = rng.permutation(np.arange(len(found)) % 2)
    return found


def first_weights(places: np.ndarray) -> np.ndarray:
    """What first draws weigh, shape (draws,): each fault its share of all evenings, the rest what is left."""
    number = np.maximum(places[:, HEARTH_FAULT], places[:, DOUGH_FAULT]).astype(int)
    weights = np.zeros(len(places))
    for one, fault in enumerate(faults(), start=1):
        mine = number == one
        weights[mine] = fault.share / max(1, mine.sum())
    none = number == 0
    weights[none] = (1.0 - weights.sum()) / max(1, none.sum())
    return np.asarray(weights / weights.sum())


def allotted(masses: np.ndarray, count: int, least: int) -> np.ndarray:
    """How many of so many draws each kind gets, by its mass (sum 1): at least `least` where it has any; sum is count."""
    found = np.where(masses > 0.0, np.maximum(least, np.floor(masses * count)), 0.0).astype(int)
    found[int(np.argmax(masses))] += count - int(found.sum())
    return found


def followed(
    known: Knowledge,
    seed: int,
    bake: Callable[[Truth], Told],
    fit: Callable[[list[Told]], np.ndarray],
    *,
    first: Ensemble[Told] | None = None,
    draws: int = DRAWS,
) -> Ensemble[Told]:
    """The ensemble after the evidence. bake: what a truth bakes; fit: ln of how likely each makes what was told; draws: drawn anew."""
    rng = np.random.default_rng(seed + 1)
    now = first or untold(known, first_places(seed), bake)
    places, told, before = now.places, now.told, np.log(now.weights)
    fits = fit(told)
    left = 1.0
    for _ in range(ROUNDS):
        step = _step(before, fits, left)
        if step == left:
            break
        left -= step
        places = shaken(places, _weights(before + step * fits), rng, draws)
        told, before = _baked(known, places, bake), np.zeros(draws)
        fits = fit(told)
    return _without_tail(Ensemble(places, told, _weights(before + left * fits)))


def _without_tail(found: Ensemble[Told]) -> Ensemble[Told]:
    """Without the least likely draws, which together weigh TAIL: they cost time and say nothing."""
    order = np.argsort(found.weights)
    kept = np.sort(order[np.cumsum(found.weights[order]) > TAIL])
    weights = found.weights[kept]
    return Ensemble(found.places[kept], [found.told[i] for i in kept], weights / weights.sum())


def untold(known: Knowledge, places: np.ndarray, bake: Callable[[Truth], Told], weights: np.ndarray | None = None) -> Ensemble[Told]:
    """The ensemble at places of which nothing is known yet; weights: None is as first draws weigh."""
    return Ensemble(places, _baked(known, places, bake), first_weights(places) if weights is None else weights)


def _baked(known: Knowledge, places: np.ndarray, bake: Callable[[Truth], Told]) -> list[Told]:
    return in_parallel(lambda place: bake(truth_of(known, place)), list(places))


def _weights(log: np.ndarray) -> np.ndarray:
    shifted = np.exp(log - log.max())
    return np.asarray(shifted / shifted.sum())


def _effective(weights: np.ndarray) -> float:
    return float(1.0 / (weights**2).sum())


def _step(before: np.ndarray, fits: np.ndarray, left: float) -> float:
    """How much of the power that is left can be added before the weights thin; before: their ln so far."""
    if _effective(_weights(before + left * fits)) >= ENOUGH:
        return left
    low, high = 0.0, left
    for _ in range(30):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if _effective(_weights(before + middle * fits)) >= ENOUGH else (low, middle)
    return max(low, 0.02 * left)


def shaken(places: np.ndarray, weights: np.ndarray, rng: np.random.Generator, count: int) -> np.ndarray:
    """So many places drawn by their weights, each drawn towards the mean and shaken so that mean and spread stay.

    Shaken along the lines on which the draws lie: what the evidence holds together stays together. Of a fault its size
    alone is shaken, between its limits.
    """
    picked = places[systematic(weights, rng, count)]
    smooth = places[:, :SMOOTH]
    mean = weights @ smooth
    along = rng.standard_normal((count, places.shape[0])) @ (np.sqrt(weights)[:, None] * (smooth - mean))
    picked[:, :SMOOTH] = KEPT * picked[:, :SMOOTH] + (1.0 - KEPT) * mean + math.sqrt(1.0 - KEPT**2) * along
    for size in (HEARTH_SIZE, DOUGH_SIZE):
        picked[:, size] = np.clip(picked[:, size] + 0.1 * rng.standard_normal(count), 0.0, 1.0)
    return np.asarray(picked)


def middle_of(ensemble: Ensemble[Told]) -> np.ndarray:
    """The likeliest place, shape (PLACED,): the mean of those with the likeliest faults, or none."""
    both = ensemble.places[:, [HEARTH_FAULT, DOUGH_FAULT]]
    kinds, number = np.unique(both, axis=0, return_inverse=True)
    masses = np.bincount(number.ravel(), weights=ensemble.weights)
    mine = number.ravel() == int(np.argmax(masses))
    place = np.asarray(ensemble.weights[mine] @ ensemble.places[mine] / ensemble.weights[mine].sum())
    place[[HEARTH_FAULT, DOUGH_FAULT]] = kinds[int(np.argmax(masses))]
    return place


def systematic(weights: np.ndarray, rng: np.random.Generator, count: int | None = None) -> np.ndarray:
    """Indices drawn in proportion to the weights, as evenly as can be."""
    n = count or weights.size
    at = (np.arange(n) + rng.random()) / n
    return np.minimum(np.searchsorted(np.cumsum(weights), at), weights.size - 1)
