"""What a kitchen has taught, as Plan, Match, Bake and In a row take it: a hearth as it really is, and what is known of a rig."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from mattone_engine.knowledge.truths import Z80
from mattone_engine.learn.kitchen import DAY_LN, LOADING_SD, OF_HEARTH, USUAL_SD, WATER_SD, Kitchen, own_pull_var
from mattone_engine.learn.lesson import CAUSES, PARTS, Lesson
from mattone_engine.things.base import StrictModel
from mattone_engine.things.hearth import HearthLimits
from mattone_engine.things.knowledge import GENERAL, Belief, Knowledge, ShareBelief

# A bake of a usual oven, for what was never logged: what each cause adds to ln of its pull, and what decides it.
USUAL_LESSON = Lesson(likely_s=480.0, pulled_s=480.0, shares=(0.5, 0.35, 0.15), pull_by=(-0.012, -0.15, 0.0, 0.0, -0.6, 0.3, 0.15))
# What the model gets wrong in a rig is carried by these, each by how much it moves the pull and how much it usually strays: a pull that
# browning hardly moves is held by its core or its cheese, and moves by the load.
CARRIED_BY = {"browning": USUAL_SD["browning"], "loading": LOADING_SD, "topping_water": WATER_SD}
MOST_LN, MOST_LOAD_LN = 0.9, 0.5
# Where all of these together usually move ln of a pull by less, none is blamed.
LEAST_MOVED = 0.005


class HearthFound(StrictModel):
    """How a hearth really is against what is planned with: K on its dial, factors of its power and top element."""

    dial_k: float = 0.0
    power: float = 1.0
    top_element: float = 1.0


@dataclass(frozen=True)
class RigKnown:
    """A rig as its kitchen knows it. bakes: on this rig, and in this hearth; narrower: its window against an untold rig's, as ln(time)."""

    hearth: HearthFound
    knowledge: Knowledge
    bakes: int
    hearth_bakes: int
    narrower: float


def known_of(kitchen: Kitchen, hearth: str, rig: str, told: Knowledge = GENERAL) -> RigKnown:
    """What was learned of a rig. told: what is known of its hearth without bakes, as by a preheat log.

    The causes of a bake are found out together: that an oven is cool and a dough slow is less sure than that both make 8 minutes.
    `Knowledge` takes each by itself, so that all are narrowed alike until together they make the window that was learned.
    """
    here = [one for one in kitchen.counted if one.rig == rig]
    there = [one for one in kitchen.counted if one.hearth == hearth]
    usual = usual_lessons(kitchen, hearth, rig)
    row = np.mean([kitchen.pull_row(lesson, hearth, rig) for lesson in usual], axis=0)
    causes = [kitchen.at(f"h:{hearth}", name) for name in OF_HEARTH[:4]] + [kitchen.at("cook", "browning")]
    model = np.zeros_like(row)
    of_model = [kitchen.at(f"{of}", name) for of in (f"h:{hearth}", f"r:{rig}") for name in ("all", *PARTS)]
    model[of_model] = row[of_model]
    # What of the model's error is left; and what no bake can teach, since each day has its own.
    left = math.sqrt(float(model @ kitchen.cov @ model) / float(np.square(model) @ kitchen.usual_var))
    of_a_day = DAY_LN
    together = float(row @ kitchen.cov @ row)
    model_var = float(model @ kitchen.cov @ model)
    apart = float(sum(row[i] ** 2 * kitchen.cov[i, i] for i in causes)) + model_var
    narrowed = math.sqrt(together / apart) if apart > 0.0 else 1.0
    carried = _carried(float(model @ kitchen.mean), usual)

    def spread(place: int) -> float:
        return narrowed * Z80 * math.sqrt(max(0.0, float(kitchen.cov[place, place])))

    dial, power, top, fan, browning = causes
    uneven = kitchen.at(f"h:{hearth}", "uneven")
    knowledge = told.model_copy(
        update={
            "bakes": len(here),
            "hearth_bakes": len(there),
            "dial_k": Belief(spread=min(told.dial_k.spread, spread(dial))),
            "power_ln": ShareBelief(spread=min(told.power_ln.spread, spread(power))),
            "top_element_ln": ShareBelief(spread=min(told.top_element_ln.spread, spread(top))),
            "uneven": ShareBelief(
                mean=float(np.clip(kitchen.mean[uneven], 0.0, 0.6)), spread=min(told.uneven.spread, Z80 * math.sqrt(float(kitchen.cov[uneven, uneven])))
            ),
            "fan_film_ln": ShareBelief(mean=_bound(float(kitchen.mean[fan])), spread=min(told.fan_film_ln.spread, spread(fan))),
            "browning_ln": ShareBelief(mean=_bound(float(kitchen.mean[browning]) + carried["browning"]), spread=min(told.browning_ln.spread, spread(browning))),
            "loading_ln": ShareBelief(mean=_bound(carried["loading"], MOST_LOAD_LN), spread=told.loading_ln.spread),
            "topping_water_ln": ShareBelief(mean=_bound(carried["topping_water"], MOST_LOAD_LN), spread=told.topping_water_ln.spread),
            "eye_l": _eye(kitchen),
            "model_ln": ShareBelief(spread=math.hypot(narrowed * left * told.model_ln.spread, math.sqrt(1.0 - min(1.0, left) ** 2) * Z80 * of_a_day)),
        }
    )
    found = HearthFound(
        dial_k=float(np.clip(kitchen.mean[dial], -40.0, 40.0)),
        power=math.exp(_bound(float(kitchen.mean[power]))),
        top_element=math.exp(_bound(float(kitchen.mean[top]))),
    )
    # What no bake can teach, portions and the day, is in both windows.
    own = float(np.mean([own_pull_var(one) for one in usual]))
    narrower = math.sqrt((together + own) / (float(np.square(row) @ kitchen.usual_var) + own))
    return RigKnown(found, knowledge, len(here), len(there), narrower)


def _eye(kitchen: Kitchen) -> Belief:
    """How pale this cook's eye reads, over base, rim and cheese."""
    rows = np.zeros((len(PARTS), len(kitchen.names)))
    rows[:, kitchen.at("cook", "eye_l")] = 1.0
    rows[np.arange(len(PARTS)), [kitchen.at("cook", f"eye_{part}") for part in PARTS]] = 1.0
    var = float(np.mean(np.einsum("ij,jk,ik->i", rows, kitchen.cov, rows)))
    return Belief(mean=float(np.clip((rows @ kitchen.mean).mean(), -30.0, 30.0)), spread=Z80 * math.sqrt(var))


def _carried(off_ln: float, usual: list[Lesson]) -> dict[str, float]:
    """What makes ln of a rig's pull so much later: the least likely to stray moves least (least squares by their usual spreads)."""
    by = dict(zip(CAUSES, np.mean([lesson.pull_by for lesson in usual], axis=0).tolist(), strict=True))
    shares = {name: by[name] * sd**2 for name, sd in CARRIED_BY.items()}
    whole = sum(by[name] * share for name, share in shares.items())
    return {name: off_ln * share / whole if whole > LEAST_MOVED**2 else 0.0 for name, share in shares.items()}


def usual_lessons(kitchen: Kitchen, hearth: str, rig: str) -> list[Lesson]:
    """What a bake of a rig is like: by those that counted on it, else in its hearth, else by a usual oven's."""
    here = [one.lesson for one in kitchen.counted if one.rig == rig]
    return here or [one.lesson for one in kitchen.counted if one.hearth == hearth] or [USUAL_LESSON]


def _bound(value: float, most: float = MOST_LN) -> float:
    return min(most, max(-most, value))


def as_learned(limits: HearthLimits, known: RigKnown) -> tuple[HearthLimits, Knowledge]:
    """The hearth to plan with, within what a hearth can be, and what is known of it. A fire has no dial: its floor and dome are known to be hotter."""
    found, knowledge = known.hearth, known.knowledge
    dial_k = found.dial_k
    if limits.fire is not None:
        knowledge, dial_k = knowledge.model_copy(update={"dial_k": Belief(mean=dial_k, spread=knowledge.dial_k.spread)}), 0.0
    hearth = limits.model_copy(
        update={
            "dial_error_k": float(np.clip(limits.dial_error_k + dial_k, -60.0, 60.0)),
            "power_kw": float(np.clip(limits.power_kw * found.power, 0.5, 6.0)),
            "top_element_kw": float(np.clip(limits.top_element_kw * found.top_element, 0.0, 4.0)),
        }
    )
    return hearth, knowledge
