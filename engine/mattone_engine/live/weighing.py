"""What each possible action would bring, by baking on from now; and which comes first."""

from __future__ import annotations

import math
from dataclasses import dataclass, fields, replace

import numpy as np

from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.simulate import horizon_s
from mattone_engine.heat.outcome import COLOUR_STEP, NOT_DONE_DISTANCE, Done, Series, TargetCrust, aim_of, distance_at, likely_done, series, target_of
from mattone_engine.heat.run import Bake
from mattone_engine.live.ensemble import Ensemble, systematic
from mattone_engine.live.following import Baked
from mattone_engine.live.possible import Possible

# So many of the likely bakes are baked on with each action; with the first few every one, with the others the best of them.
BAKED_ON, WITH_ALL, BEST = 15, 4, 4
# It ends further off than by going on where it does so by more than an eye could tell, L*.
FURTHER_L = 1.0
# A right moment so near is now, s.
NOW_S = 2.0
GO_ON, PULL_NOW = Possible("go_on"), Possible("pull_now")


@dataclass(frozen=True)
class Onwards:
    """One bake from now to its pull: when, its colours there, and how far they are from the wanted crust, L*."""

    pull_s: float
    base_l: float
    rim_l: float
    cheese_l: float
    loss_pct: float
    off_l: float
    is_pull: bool


@dataclass(frozen=True)
class Weighed:
    """An action with what it brings: likely bakes with it, and the mean gain against going on, L*; further: in which share of them it ends

    further from the wanted crust than going on does, by more than FURTHER_L; whole: all of the likely bakes were baked with it.
    """

    action: Possible
    bakes: list[Onwards]
    gain_l: float
    further: float = 0.0
    whole: bool = True


def weigh(ensemble: Ensemble[Baked], actions: list[Possible], now_s: float, seed: int) -> list[Weighed]:
    """Every action, and going on, that which ends nearest the wanted crust first."""
    picked = systematic(ensemble.weights, np.random.default_rng(seed + 2), BAKED_ON)
    # In turn over all of them, so that the first few stand for all.
    order = sorted(range(BAKED_ON), key=lambda i: (i * 7) % BAKED_ON)
    likely = [ensemble.told[picked[i]] for i in order]
    every = [GO_ON, PULL_NOW, *actions]
    rows = in_parallel(lambda one: onwards(one, every, now_s), likely[:WITH_ALL])
    first = sorted((_weighed(every, i, rows) for i in range(len(every))), key=lambda one: -one.gain_l)
    best = [GO_ON, *(one.action for one in first if one.action is not GO_ON)][: BEST + 1]
    more = in_parallel(lambda one: onwards(one, best, now_s), likely[WITH_ALL:])
    whole = [*([row[every.index(action)] for action in best] for row in rows), *more]
    found = sorted((_weighed(best, i, whole) for i in range(len(best))), key=lambda one: -one.gain_l)
    if float(np.median([row[0].pull_s for row in whole])) <= now_s + NOW_S:
        # Going on would be pulling now.
        found.sort(key=lambda one: one.action is not PULL_NOW)
    return [*found, *(replace(one, whole=False) for one in first if one.action not in best)]


def _weighed(actions: list[Possible], i: int, rows: list[list[Onwards]]) -> Weighed:
    """One of the actions, against going on, which comes first in every row."""
    gains = np.array([row[0].off_l - row[i].off_l for row in rows])
    return Weighed(actions[i], [row[i] for row in rows], float(gains.mean()), float(np.mean(gains < -FURTHER_L)))


def onwards(likely: Baked, actions: list[Possible], now_s: float) -> list[Onwards]:
    """One likely bake to now, and on with each of the actions."""
    spec, truth = likely.spec, likely.truth
    target = target_of(spec)
    bake = Bake(spec, quick=True, values=truth.values, variation=truth.variation, heated=likely.heated, balanced=False)
    bake.advance_to(now_s)
    until_s = min(5400.0, 1.4 * max(horizon_s(spec), now_s + 600.0))

    def on(action: Possible) -> Onwards:
        # A likely bake goes on as planned of its own: it was baked so already.
        if action is GO_ON and likely.result.t_s[-1] > now_s + 1.0:
            return _told(likely.result, action, target, now_s)
        return _on(bake.fork(action.on(spec.events, now_s), aim_of(target)), action, target, now_s, until_s)

    return [on(action) for action in actions]


def _on(bake: Bake, action: Possible, target: TargetCrust, now_s: float, until_s: float) -> Onwards:
    bake.advance_to(min(until_s, now_s + 1.0) if action is PULL_NOW else until_s)
    return _told(series(bake.trace(balanced=False)), action, target, now_s)


def _told(result: Series, action: Possible, target: TargetCrust, now_s: float) -> Onwards:
    if action is PULL_NOW:
        rest = from_now(result, now_s)
        return told(rest, pulled_at_once(rest, target), target)
    return told(result, likely_done(result, target, from_s=now_s), target)


def pulled_at_once(result: Series, target: TargetCrust) -> Done:
    """The first moment as the pull, set or not."""
    raw = result.core_c[0] < target.core_c or result.sauce_c[0] < target.hot_c or result.t_s[0] < target.topped_s
    off = distance_at(result, target, 0)
    return Done(0, float(result.t_s[0]), "raw" if raw else "base", off + (NOT_DONE_DISTANCE if raw else 0.0), None)


def told(result: Series, done: Done, target: TargetCrust) -> Onwards:
    """The pull of a bake, told."""
    i = done.index
    weights = target.weight_base + target.weight_rim + target.weight_cheese
    return Onwards(
        pull_s=done.t_s,
        base_l=float(result.base_l[i]),
        rim_l=float(result.rim_l[i]),
        cheese_l=float(result.cheese_l[i]),
        loss_pct=float(result.loss_pct[i]),
        off_l=COLOUR_STEP * math.sqrt(done.distance / max(weights, 1e-9)),
        is_pull=done.is_pull,
    )


def from_now(result: Series, now_s: float) -> Series:
    """The part of a series that can still be chosen from."""
    first = int(np.searchsorted(result.t_s, now_s - 1e-6))
    first = min(first, result.t_s.size - 2)
    return replace(result, **{f.name: getattr(result, f.name)[..., first:] for f in fields(result)})
