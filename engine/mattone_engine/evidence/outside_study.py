"""What becomes of an evening on which something is wrong that nothing planned for: is the pull nearer than the plan's, is the cause named?

The hidden oven and dough are drawn as in `live_studies`, and one thing beside lies outside of all that is drawn there. The deck is read
half-way and at launch; base, rim and cheese are looked at three times, and what is told after the last look is put to the test.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from mattone_engine.bake.parallel import in_parallel
from mattone_engine.evidence.live_studies import Evening, a_bias, evenings, eyes, hidden_truth, lit_evenings, read
from mattone_engine.heat.outcome import COLOUR_STEP, distance_at, target_of
from mattone_engine.heat.variation import Variation
from mattone_engine.live.causes import causes
from mattone_engine.live.ensemble import Truth
from mattone_engine.live.following import Baked, baked, pull_window
from mattone_engine.live.journal import Journal

# What is wrong, and the cause that names it.
OUTSIDE = {"dial 35 K low": "oven", "deck of double mass": "deck", "dough 20 % heavier": "base", "element dead": "element", "eye one word too dark": "eye"}
WORD_L = 8.0
# When the deck is read, as shares of its preheat.
READ_AT = (0.4, 1.0)
# When it is looked at, as shares of the pull that is told at launch.
LOOKED_AT = (0.4, 0.65, 0.9)
# A cause matters that moves the pull by so much; a crust is worse by more than this, L*.
MATTERS, WORSE_L = 0.1, 2.0


@dataclass(frozen=True)
class Found:
    """One evening: what was wrong; how far off the crust ends if pulled as planned and as told, L*; whether the cause moves the pull by MATTERS,

    and the causes named first, in their order; whether the right pull lies in the window.
    """

    wrong: str
    rig: str
    plan_l: float
    told_l: float
    matters: bool
    named: tuple[str, ...]
    inside: bool


def wrong_with(variation: Variation, wrong: str) -> Variation:
    """The same evening with this wrong."""
    if wrong == "dial 35 K low":
        return replace(variation, dial_k=variation.dial_k - 35.0)
    if wrong == "deck of double mass":
        return replace(variation, deck_mass=2.0)
    if wrong == "dough 20 % heavier":
        return replace(variation, loading=1.2 * variation.loading)
    return replace(variation, top_element=0.02) if wrong == "element dead" else variation


def can_be_wrong(evening: Evening, wrong: str) -> bool:
    """Whether this can be wrong on this rig."""
    return evening.spec.has_deck and not evening.spec.hearth.is_flame if wrong == "deck of double mass" else True


def off_at(one: Baked, at_s: float) -> float:
    """How far from the wanted crust it is when pulled at this moment, L*."""
    target = target_of(one.spec)
    index = int(np.argmin(np.abs(one.result.t_s - at_s)))
    weights = target.weight_base + target.weight_rim + target.weight_cheese
    return COLOUR_STEP * math.sqrt(distance_at(one.result, target, index) / max(weights, 1e-9))


def one_evening(evening: Evening, wrong: str, truth: Truth, seed: int) -> Found:
    """One evening, followed."""
    rng = np.random.default_rng(seed)
    spec, known, target = evening.spec, evening.request.knowledge, target_of(evening.spec)
    usual, hidden = baked(spec, target, truth), baked(spec, target, Truth(wrong_with(truth.variation, wrong), truth.values))
    bias_l = -WORD_L if wrong == "eye one word too dark" else a_bias(rng)
    looks = tuple(eyes(hidden, share * evening.likely_s, rng, cheese=True, bias_l=bias_l) for share in LOOKED_AT)
    readings = tuple(read(hidden, rng, share) for share in READ_AT) if spec.has_deck else ()
    journal = Journal(launched_s=float(hidden.heated.t_s[-1]), readings=readings, seen=looks)
    now = evening.follow(journal, seed)
    window = pull_window(now, known)
    matters = wrong == "eye one word too dark" or abs(math.log(hidden.done.t_s / usual.done.t_s)) >= MATTERS
    told_s = max(looks[-1].at_s, window.likely)
    named = tuple(one.key for one in causes(spec, now, journal))
    return Found(wrong, evening.name, off_at(hidden, evening.planned_s), off_at(hidden, told_s), matters, named, window.low <= hidden.done.t_s <= window.high)


def all_evenings(each: int = 24, seed: int = 17) -> list[Found]:
    """So many evenings of each kind, in turn over the rigs on which it can go wrong."""
    rng, jobs = np.random.default_rng(seed), []
    for wrong in OUTSIDE:
        able = lit_evenings() if wrong == "element dead" else [one for one in evenings() if can_be_wrong(one, wrong)]
        jobs += [(able[i % len(able)], wrong, hidden_truth(able[i % len(able)], rng), 100 * seed + i) for i in range(each)]
    return in_parallel(lambda job: one_evening(*job), jobs)
