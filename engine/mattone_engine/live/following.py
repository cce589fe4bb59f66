"""The bakes of an ensemble, and what of them is told: how the crust stands, when it is done, between what."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.special import erf

from mattone_engine.bake.simulate import horizon_s
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import Done, Series, TargetCrust, aim_of, likely_done, series, target_of
from mattone_engine.heat.preheat import Preheat
from mattone_engine.heat.run import Bake
from mattone_engine.heat.variation import deck_as_is, varied
from mattone_engine.live.ensemble import Ensemble, Truth, followed
from mattone_engine.live.journal import Journal
from mattone_engine.live.sightings import looks_ln, signs_ln
from mattone_engine.things import SimulateInput
from mattone_engine.things.knowledge import Belief, Knowledge


@dataclass(frozen=True)
class Baked:
    """One bake that it may be; spec: with what its truth does of it."""

    spec: SimulateInput
    truth: Truth
    heated: Preheat
    result: Series
    done: Done


@dataclass(frozen=True)
class Interval:
    """A likely value with its 80 %."""

    low: float
    likely: float
    high: float


def baked(spec: SimulateInput, target: TargetCrust, truth: Truth, heated: Preheat | None = None) -> Baked:
    """What a truth bakes, until the pull is past. heated: the hearth at launch, where it is not the first of its evening."""
    spec = deck_as_is(spec, truth.variation)
    heated = heated or heat_up(spec, varied(spec.hearth, truth.variation), truth.values)
    bake = Bake(spec, quick=True, values=truth.values, variation=truth.variation, heated=heated, balanced=False, aim=aim_of(target))
    bake.advance_to(horizon_s(spec))
    result = series(bake.trace(balanced=False))
    return Baked(spec, truth, heated, result, likely_done(result, target))


def fits_ln(told: list[Baked], journal: Journal, eye: Belief) -> np.ndarray:
    """ln of how likely each bake makes what was seen of it, by an eye of which so much is known; shape (bakes,)."""
    signs = np.array([signs_ln(journal.signs, one.result, one.truth.variation.uneven) for one in told])
    return np.asarray(looks_ln(journal.seen, [one.result for one in told], eye) + signs)


def follow(
    spec: SimulateInput,
    known: Knowledge,
    journal: Journal,
    seed: int,
    *,
    first: Ensemble[Baked] | None = None,
    bake: Callable[[Truth], Baked] | None = None,
) -> Ensemble[Baked]:
    """The bakes it may be after what was seen; `first` knows what was read. bake: what a truth bakes, where it is not the first of its evening."""
    target = target_of(spec)
    return followed(known, seed, bake or (lambda truth: baked(spec, target, truth)), lambda told: fits_ln(told, journal, known.eye_l), first=first)


def within(values: np.ndarray, weights: np.ndarray, *, share: float = 0.8) -> Interval:
    """The middle `share` of weighted values: of a smooth density over them, so that few draws do not jump."""
    order = np.argsort(values)
    values, weights = values[order], weights[order]
    mean = float(weights @ values)
    spread = math.sqrt(max(0.0, float(weights @ (values - mean) ** 2)))
    if spread < 1e-9:
        return Interval(mean, mean, mean)
    # Silverman (1986), for as many draws as these weights are worth; the values drawn in, so that the spread stays.
    width = 0.9 * spread * float(1.0 / (weights**2).sum()) ** -0.2
    drawn_in = mean + (values - mean) * spread / math.hypot(spread, width)
    width *= spread / math.hypot(spread, width)
    grid = np.linspace(drawn_in[0] - 4.0 * width, drawn_in[-1] + 4.0 * width, 150)
    z = (grid[:, None] - drawn_in[None, :]) / width
    below = (0.5 * (1.0 + erf(z / math.sqrt(2.0)))) @ weights
    ends = (0.5 * (1.0 - share), 0.5, 0.5 * (1.0 + share))
    low, likely, high = (float(np.interp(end, below, grid)) for end in ends)
    return Interval(low, likely, high)


def pull_window(ensemble: Ensemble[Baked], known: Knowledge) -> Interval:
    """The 80 % of the right moment, s: as a plan tells it, a little longer on the late side."""
    found = within(np.log([max(5.0, one.done.t_s) for one in ensemble.told]), ensemble.weights)
    return Interval(math.exp(found.low), math.exp(found.likely), math.exp(found.likely + known.late_skew * (found.high - found.likely)))
