"""Before the launch: how the deck heats, when it is ready, and what launching at once would cost."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from mattone_engine.bake.row import BACK_WITHIN_K, row_say
from mattone_engine.heat.colour import colour_word
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import target_of
from mattone_engine.heat.preheat import Preheat
from mattone_engine.live.ensemble import Ensemble, systematic, untold
from mattone_engine.live.following import Baked, Interval, within
from mattone_engine.live.journal import LiveInput
from mattone_engine.live.night import Night, baking, heating, night_of, places_after
from mattone_engine.live.weighing import told
from mattone_engine.things import SimulateInput
from mattone_engine.things.base import StrictModel
from mattone_engine.things.text import celsius, clock

# A deck so near what is wanted is ready, K; and so much longer than planned is waited for it, min.
READY_K, LONGER_MIN = 4.0, 45.0
# How far ahead the deck is looked at moves on in such steps, s: the answers in between share what was heated.
STEP_S = 300.0
# So many of the likely ovens are baked in at once, and later.
BAKED_IN, BAKED_AHEAD = 6, 24


class DeckCurve(StrictModel):
    """Minutes since heat on, and C."""

    minutes: list[float]
    deck_c: list[float]


class Readiness(StrictModel):
    """When the deck is ready, s since heat on, and how it stands, C; now: what launching at once would bring.

    expected: the deck as planned; likely: as the readings tell it. wanted_c is None where nothing is heated but the air.
    """

    at_s_low: float
    at_s: float
    at_s_high: float
    planned_s: float
    deck_now_c: float
    deck_now_low_c: float
    deck_now_high_c: float
    wanted_c: float | None
    expected: DeckCurve
    likely: DeckCurve
    at_once: str


def heating_up(request: LiveInput, spec: SimulateInput) -> tuple[Readiness, list[str], Ensemble[Baked]]:
    """The deck's way so far and to come, what that says, and bakes that a launch at its moment may become."""
    # What is lit before the launch moves with it: the deck is waited for without.
    bare, night = spec.model_copy(update={"events": ()}), night_of(request)
    wanted_c = _wanted_c(bare)
    until_s = max(60.0 * spec.preheat_min if not night.row else night.free_s, request.now_s) + 60.0 * LONGER_MIN
    until_s = STEP_S * math.ceil(until_s / STEP_S)
    planned = night.heated(bare, until_s)
    planned_s = _ready_s(planned, wanted_c, night.free_s, spec, BACK_WITHIN_K) if night.row else 60.0 * spec.preheat_min
    ensemble = heating(bare, request.plan.knowledge, night, until_s, request.journal.readings, request.seed + len(request.earlier))
    within_k = BACK_WITHIN_K if night.row else READY_K
    ready = np.array([_ready_s(one, wanted_c, planned_s, spec, within_k) for one in ensemble.told])
    at = within(ready, ensemble.weights)
    at = Interval(*(max(request.now_s, value) for value in (at.low, at.likely, at.high)))
    now = within(np.array([_at(one, request.now_s) for one in ensemble.told]), ensemble.weights)
    places, weights = places_after(request.journal.readings, ensemble, night)
    picked = systematic(weights, np.random.default_rng(request.seed + 3), BAKED_AHEAD)
    ahead = untold(request.plan.knowledge, places[picked], baking(spec, night, at.likely), np.full(BAKED_AHEAD, 1.0 / BAKED_AHEAD))
    launch = Readiness(
        at_s_low=round(at.low, 1),
        at_s=round(at.likely, 1),
        at_s_high=round(at.high, 1),
        planned_s=planned_s,
        deck_now_c=round(now.likely, 1),
        deck_now_low_c=round(now.low, 1),
        deck_now_high_c=round(now.high, 1),
        wanted_c=round(wanted_c, 1) if spec.has_deck else None,
        expected=_curve(planned.t_s, planned.deck_c),
        likely=_curve(planned.t_s, np.average([np.interp(planned.t_s, one.t_s, one.deck_c) for one in ensemble.told], axis=0, weights=ensemble.weights)),
        at_once=_at_once(request, spec, night, ahead, at.likely),
    )
    return launch, [*_says(launch, request), *([said] if request.earlier and (said := row_say(spec, 2)) else [])], ahead


@lru_cache(maxsize=64)
def _wanted_c(bare: SimulateInput) -> float:
    """Where the deck is to be at the first launch, C."""
    return float(heat_up(bare).deck_c[-1])


def _at(heated: Preheat, at_s: float) -> float:
    return float(np.interp(at_s, heated.t_s, heated.deck_c))


def _ready_s(heated: Preheat, wanted_c: float, planned_s: float, spec: SimulateInput, within_k: float) -> float:
    """When this deck is ready; one that never gets there is as good as it gets when it stands."""
    if not spec.has_deck or heated.t_s.size < 2:
        return planned_s
    aim = min(wanted_c, float(heated.deck_c[-1])) - within_k
    return float(heated.t_s[int(np.argmax(heated.deck_c >= aim))])


def _curve(t_s: np.ndarray, deck_c: np.ndarray) -> DeckCurve:
    every = slice(None, None, max(1, t_s.size // 90))
    return DeckCurve(minutes=[round(float(t) / 60.0, 2) for t in t_s[every]], deck_c=[round(float(c), 1) for c in deck_c[every]])


def _at_once(request: LiveInput, spec: SimulateInput, night: Night, ahead: Ensemble[Baked], ready_s: float) -> str:
    """What launching now would bring against waiting."""
    if ready_s - request.now_s < 60.0:
        return "It is as good as ready."
    target = target_of(spec)
    hasty = baking(spec, night, request.now_s)
    pairs = [(told(one.result, one.done, target), told(soon.result, soon.done, target)) for one in ahead.told[:BAKED_IN] for soon in [hasty(one.truth)]]
    later, now = (np.median([(crust.pull_s, crust.base_l, crust.rim_l) for crust in crusts], axis=0) for crusts in zip(*pairs, strict=True))
    same = all(colour_word(a) == colour_word(b) for a, b in zip(now[1:], later[1:], strict=True))
    crust = (
        "the same words" if same else f"base {colour_word(now[1])}, rim {colour_word(now[2])} instead of {colour_word(later[1])} and {colour_word(later[2])}"
    )
    return f"Launched now it bakes {clock(float(now[0]))}, not {clock(float(later[0]))}: {crust}."


def _says(launch: Readiness, request: LiveInput) -> list[str]:
    by_s = launch.at_s - launch.planned_s
    told_by = f"{len(request.journal.readings)} reading{'s' if len(request.journal.readings) != 1 else ''}" if request.journal.readings else "the minutes alone"
    if abs(by_s) < 60.0:
        moved = "as planned"
    else:
        moved = f"{abs(by_s) / 60.0:.0f} min {'later' if by_s > 0 else 'sooner'} than planned"
    if launch.wanted_c is None:
        return [f"Launch {moved}."]
    return [f"Launch {moved}, by {told_by}.", f"The deck stands at about {celsius(launch.deck_now_c)}; {celsius(launch.wanted_c)} is wanted."]
