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
from mattone_engine.things.knowledge import Knowledge

Told = TypeVar("Told")

# Before anything is told there are so many that a look leaves enough of them; drawn anew, fewer do.
FIRST_DRAWS, DRAWS = 256, 48
# With fewer effective draws than these they are drawn anew, at most so many times.
ENOUGH, ROUNDS = 18.0, 6
TAIL = 0.003
# How much of each draw's own place stays when it is shaken (Liu & West: discount 0.95).
KEPT = 0.974


@dataclass(frozen=True)
class Truth:
    """One bake it may be: what differs from what is told, and the model's parameters."""

    variation: Variation
    values: dict[str, float]


@dataclass(frozen=True)
class Ensemble(Generic[Told]):
    """Draws in standard normal coordinates, shape (draws, DRAWN + STRAYING), what each bakes, and their weights, sum 1."""

    places: np.ndarray
    told: list[Told]
    weights: np.ndarray


def truth_of(known: Knowledge, place: np.ndarray) -> Truth:
    """The bake at one place of the standard normal coordinates."""
    return Truth(truth_at(known, place[:DRAWN]), strayed_values(place[DRAWN:], known))


def first_places(seed: int, draws: int = FIRST_DRAWS) -> np.ndarray:
    """Places drawn before anything is told; in pairs on either side of the mean, so that few draws are fair."""
    half = np.random.default_rng(seed).standard_normal((draws // 2, DRAWN + STRAYING))
    return np.concatenate([half, -half])


def followed(
    known: Knowledge, seed: int, bake: Callable[[Truth], Told], fit: Callable[[Told], float], *, first: Ensemble[Told] | None = None, draws: int = DRAWS
) -> Ensemble[Told]:
    """The ensemble after the evidence. bake: what a truth bakes; fit: ln of how likely that makes what was told; draws: drawn anew."""
    rng = np.random.default_rng(seed + 1)
    now = first or untold(known, first_places(seed), bake)
    places, told = now.places, now.told
    fits = np.array([fit(one) for one in told])
    left = 1.0
    for _ in range(ROUNDS):
        step = _step(fits, left)
        if step == left:
            break
        left -= step
        places = shaken(places, _weights(step * fits), rng, draws)
        told = _baked(known, places, bake)
        fits = np.array([fit(one) for one in told])
    return _without_tail(Ensemble(places, told, _weights(left * fits)))


def _without_tail(found: Ensemble[Told]) -> Ensemble[Told]:
    """Without the least likely draws, which together weigh TAIL: they cost time and say nothing."""
    order = np.argsort(found.weights)
    kept = np.sort(order[np.cumsum(found.weights[order]) > TAIL])
    weights = found.weights[kept]
    return Ensemble(found.places[kept], [found.told[i] for i in kept], weights / weights.sum())


def untold(known: Knowledge, places: np.ndarray, bake: Callable[[Truth], Told]) -> Ensemble[Told]:
    """The ensemble at places of which nothing is told yet."""
    told = _baked(known, places, bake)
    return Ensemble(places, told, np.full(len(told), 1.0 / len(told)))


def _baked(known: Knowledge, places: np.ndarray, bake: Callable[[Truth], Told]) -> list[Told]:
    return in_parallel(lambda place: bake(truth_of(known, place)), list(places))


def _weights(log: np.ndarray) -> np.ndarray:
    shifted = np.exp(log - log.max())
    return np.asarray(shifted / shifted.sum())


def _effective(weights: np.ndarray) -> float:
    return float(1.0 / (weights**2).sum())


def _step(fits: np.ndarray, left: float) -> float:
    """How much of the power that is left can be added before the weights thin."""
    if _effective(_weights(left * fits)) >= ENOUGH:
        return left
    low, high = 0.0, left
    for _ in range(30):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if _effective(_weights(middle * fits)) >= ENOUGH else (low, middle)
    return max(low, 0.02 * left)


def shaken(places: np.ndarray, weights: np.ndarray, rng: np.random.Generator, count: int) -> np.ndarray:
    """So many places drawn by their weights, each drawn towards the mean and shaken so that mean and spread stay.

    Shaken along the lines on which the draws lie: what the evidence holds together stays together.
    """
    picked = places[systematic(weights, rng, count)]
    mean = weights @ places
    along = rng.standard_normal((count, places.shape[0])) @ (np.sqrt(weights)[:, None] * (places - mean))
    return np.asarray(KEPT * picked + (1.0 - KEPT) * mean + math.sqrt(1.0 - KEPT**2) * along)


def systematic(weights: np.ndarray, rng: np.random.Generator, count: int | None = None) -> np.ndarray:
    """Indices drawn in proportion to the weights, as evenly as can be."""
    n = count or weights.size
    at = (np.arange(n) + rng.random()) / n
    return np.minimum(np.searchsorted(np.cumsum(weights), at), weights.size - 1)
