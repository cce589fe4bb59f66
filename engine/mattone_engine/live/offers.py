"""Which of the possible actions are put before the cook: those that bring something a cook can see, and hardly ever harm."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mattone_engine.heat.colour import cheese_word, colour_word
from mattone_engine.live.following import Interval
from mattone_engine.live.weighing import GO_ON, PULL_NOW, Onwards, Weighed
from mattone_engine.things import Event

# An action brings the crust so much nearer, L*; or a word of it changes, and it brings at least so much.
NEARER_L, WORD_NEARER_L = 1.5, 0.5
# It ends further off than going on (weighing.FURTHER_L) in fewer than this share of the likely bakes.
FURTHER_SHARE = 0.1
# In an oven that runs so much colder than planned its heat is not turned down, K.
RUNS_COOL_K = 6.0
# A step so near, s, is not undone or forestalled by another action.
DUE_S = 60.0
# In this first share of a bake that goes to plan nothing is offered; to plan is a pull so near the planned one, as a share.
EARLY, TO_PLAN = 1.0 / 3.0, 0.1
# Less heat from now on, and more.
COOLER = ("dial_down", "flame_down")
HOTTER = ("dial_up", "flame_up", "element_on", "element_minute", "hob_30", "hob_60")
# What an action does, by kinds of event: a step that is due is not contradicted.
OPPOSITE = {
    "top_element_on": "top_element_off", "top_element_off": "top_element_on", "shield_on": "shield_off", "shield_off": "shield_on",
    "fan_on": "fan_off", "fan_off": "fan_on", "move": "move", "setpoint": "setpoint",
}  # fmt: skip


@dataclass(frozen=True)
class Moment:
    """How a bake stands: its window and planned pull, s after launch; the cavity against the plan, K; planned steps still to come;

    and whether one side was seen darker, which a turn answers whatever it gains.
    """

    now_s: float
    window: Interval
    planned_s: float
    cavity_k: float
    coming: Sequence[Event]
    uneven: bool = False

    @property
    def is_early(self) -> bool:
        """Whether it is in the first third of a bake that goes to plan."""
        return self.now_s < EARLY * self.window.likely and abs(self.window.likely / self.planned_s - 1.0) <= TO_PLAN


def offered(weighed: list[Weighed], moment: Moment) -> list[Weighed]:
    """Of all that was weighed: what is put before the cook, the best first, and going on last; after the latest the pull alone."""
    going_on = next(one for one in weighed if one.action is GO_ON)
    pull_now = next(one for one in weighed if one.action is PULL_NOW)
    if moment.now_s > moment.window.high:
        return [pull_now]
    if weighed[0].action is PULL_NOW:
        return [pull_now, going_on]
    if moment.is_early:
        return [one for one in weighed if moment.uneven and one.action.key == "turn"] + [going_on]
    found = [one for one in weighed if one.action is not GO_ON and _is_worth_it(one, going_on, moment)]
    return [*sorted(found, key=lambda one: -one.gain_l), going_on]


def _is_worth_it(one: Weighed, going_on: Weighed, moment: Moment) -> bool:
    """Whether an action may be offered at all, and brings what can be seen."""
    if one.action.key == "turn":
        return moment.uneven
    if one.action is PULL_NOW and moment.now_s < moment.window.low:
        return False
    if one.action.key in COOLER and moment.cavity_k <= -RUNS_COOL_K:
        return False
    if one.action.key in HOTTER and _middle(one.bakes).pull_s > _middle(going_on.bakes[: len(one.bakes)]).pull_s:
        return False
    if conflicts(one, moment):
        return False
    if not one.whole or one.further >= FURTHER_SHARE:
        return False
    return one.gain_l >= NEARER_L or (one.gain_l >= WORD_NEARER_L and _words(one.bakes) != _words(going_on.bakes))


def conflicts(one: Weighed, moment: Moment) -> bool:
    """Whether it undoes, forestalls or repeats a planned step that is due or overdue."""
    due = {event.do for event in moment.coming if event.at_s <= moment.now_s + DUE_S}
    mine = {event.do for event in one.action.gives if event.at_s <= moment.now_s + DUE_S}
    return bool(due & (mine | {OPPOSITE[do] for do in mine if do in OPPOSITE}))


def _middle(bakes: Sequence[Onwards]) -> Onwards:
    """The bake in the middle, by each of its figures."""

    def of(name: str) -> float:
        return float(np.median([getattr(bake, name) for bake in bakes]))

    return Onwards(of("pull_s"), of("base_l"), of("rim_l"), of("cheese_l"), of("loss_pct"), of("off_l"), is_pull=True)


def _words(bakes: Sequence[Onwards]) -> tuple[str, str, str]:
    middle = _middle(bakes)
    return colour_word(middle.base_l), colour_word(middle.rim_l), cheese_word(middle.cheese_l)
