"""What makes a bake go otherwise than planned, by the draws that fit what was read and seen.

How much each cause moves the pull is found by baking the plan with a step of that cause. A cause's effect is what it moves ln of the pull
by, times by how much the draws that fit differ from what was believed.
"""

from __future__ import annotations

import math
import tomllib
from dataclasses import dataclass, replace
from functools import cache, lru_cache
from importlib.resources import files

import numpy as np

from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.simulate import quick_outcome
from mattone_engine.heat.outcome import target_of, value_at
from mattone_engine.heat.variation import Variation, as_believed, deck_as_is
from mattone_engine.live.ensemble import Ensemble
from mattone_engine.live.following import Baked
from mattone_engine.live.journal import Journal
from mattone_engine.live.sightings import bias_of
from mattone_engine.things import SimulateInput
from mattone_engine.things.base import StrictModel
from mattone_engine.things.knowledge import Knowledge
from mattone_engine.things.text import celsius, how_sure, kelvin

# Causes in the order of `_amounts`, each with a step of its field of Variation: K, and factors; the eye comes last.
STEPS: dict[str, tuple[str, float]] = {
    "oven": ("dial_k", -20.0), "deck": ("deck_mass", 1.6), "element": ("top_element", 0.4), "base": ("loading", 1.15),
    "browning": ("browning", 0.85), "water": ("topping_water", 1.15),
}  # fmt: skip
# A cause is named that moves the pull by so much, ln(time), in so many of the likely bakes.
MOVES_LN, NAMED = 0.05, 0.5
# A deck so far from its plan is spoken of, K, where so many of the likely bakes have it so.
DECK_OFF_K, DECK_SURE = 12.0, 0.8
# How much a crust darkens, L*, for each e-fold of time, at least: by how much an eye's bias would move the pull.
LEAST_SLOPE_L = 12.0
# An eye that reads off by so much is spoken of, L*.
EYE_L = 4.0
MOST_NAMED = 2


class _Words(StrictModel):
    """One row of causes.toml."""

    key: str
    low: str
    high: str
    confirm: str


@dataclass(frozen=True)
class Cause:
    """Something that is otherwise than planned. probability: that it moves the pull by MOVES_LN or more in this direction;

    size: by how much it is off, in its own unit (K, ln of a factor, L*); effect_ln: what it does to ln of the pull.
    """

    key: str
    probability: float
    size: float
    effect_ln: float


def causes(spec: SimulateInput, now: Ensemble[Baked], journal: Journal) -> list[Cause]:
    """Every cause, the one that explains most first. spec: the bake as it was planned and done; now: the draws that fit what was seen."""
    known = spec.knowledge
    off = np.array([_amounts(one.truth.variation) for one in now.told]) - _amounts(as_believed(known))
    effects = slopes(spec) * off
    means, sizes = now.weights @ effects, now.weights @ off
    found = []
    for i, key in enumerate(STEPS):
        same = (effects[:, i] * means[i] > 0.0) & (np.abs(effects[:, i]) >= MOVES_LN)
        found.append(Cause(key, float(now.weights @ same), float(sizes[i]), float(means[i])))
    found.append(_eye(now, journal, known))
    return sorted(found, key=lambda one: -abs(one.effect_ln) * one.probability)


def _amounts(v: Variation) -> np.ndarray:
    return np.array([v.dial_k, math.log(v.deck_mass), v.top_element, math.log(v.loading), math.log(v.browning), math.log(v.topping_water)])


@lru_cache(maxsize=64)
def slopes(spec: SimulateInput) -> np.ndarray:
    """What each cause adds to ln of the pull for one of its unit, from a bake with a step of it; shape (causes,)."""
    believed, target = as_believed(spec.knowledge), target_of(spec)

    def ln_s(variation: Variation) -> float:
        return math.log(max(5.0, quick_outcome(deck_as_is(spec, variation), target, variation=variation)[0].t_s))

    stepped = [
        replace(believed, **{name: getattr(believed, name) + step if name == "dial_k" else getattr(believed, name) * step}) for name, step in STEPS.values()
    ]
    found = in_parallel(ln_s, [believed, *stepped])
    steps = np.array([(_amounts(one) - _amounts(believed))[i] for i, one in enumerate(stepped)])
    return np.asarray((np.array(found[1:]) - found[0]) / steps)


def _eye(now: Ensemble[Baked], journal: Journal, known: Knowledge) -> Cause:
    """What the eye's own bias is, by all looks: where it reads too pale the pull would seem later than it is."""
    if not journal.seen:
        return Cause("eye", 0.0, 0.0, 0.0)
    usual_l = known.eye_l.mean
    biases_l, each = bias_of(journal.seen, [one.result for one in now.told], known.eye_l)
    likely = now.weights @ each
    mean = float(likely @ biases_l) - usual_l
    sure = float(likely[(np.abs(biases_l) >= EYE_L) & (biases_l * mean > 0.0)].sum())
    return Cause("eye", sure, mean, mean / _darkening_l(now))


def _darkening_l(now: Ensemble[Baked]) -> float:
    """How fast base and rim darken before the pull, L* for each e-fold of time."""

    def slope(one: Baked) -> float:
        s = one.result
        before, after = (value_at(s.t_s, s.base_l, at_s) + value_at(s.t_s, s.rim_l, at_s) for at_s in (0.8 * one.done.t_s, one.done.t_s))
        return 0.5 * (before - after) / -math.log(0.8)

    return max(LEAST_SLOPE_L, float(now.weights @ np.array([slope(one) for one in now.told])))


@cache
def _words() -> dict[str, _Words]:
    text = files("mattone_engine.live").joinpath("causes.toml").read_text(encoding="utf-8")
    return {row["key"]: _Words.model_validate(row) for row in tomllib.loads(text)["cause"]}


def confirmed_by(key: str) -> str:
    """What would confirm a cause, as a sentence."""
    return _words()[key].confirm


def what_is_off(found: list[Cause], now: Ensemble[Baked], planned_deck_c: float | None) -> list[str]:
    """What is otherwise than planned, in sentences: the deck at launch, then at most MOST_NAMED causes with what would confirm each."""
    says = []
    if planned_deck_c is not None:
        off = np.array([float(one.heated.deck_c[-1]) for one in now.told]) - planned_deck_c
        mean = float(now.weights @ off)
        if abs(mean) >= DECK_OFF_K and float(now.weights @ (off * mean > 0.0)) >= DECK_SURE:
            says.append(f"Your deck was about {kelvin(abs(mean))} {'colder' if mean < 0 else 'hotter'} at launch than the planned {celsius(planned_deck_c)}.")
    named = [one for one in found if one.probability >= NAMED and abs(one.effect_ln) >= MOVES_LN][:MOST_NAMED]
    return [*says, *(_sentence(one) for one in named)]


def _sentence(cause: Cause) -> str:
    words = _words()[cause.key]
    text = words.low if cause.size < 0 else words.high
    return f"{text.format(how=how_sure(cause.probability), size=kelvin(5.0 * max(1, round(abs(cause.size) / 5.0))))} {words.confirm}"
