"""From a bake to the next one with exactly one thing changed, and what that would bring.

What a cook saw of a bake is the start: where its crust lay beside the model's, a changed bake is taken to lie as far beside it.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, ValidationError

from mattone_engine.bake.controls import Controls, Span
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.limits import limits_of
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.simulate import quick_outcome
from mattone_engine.errors import InputError
from mattone_engine.heat.colour import cheese_word, colour_word
from mattone_engine.heat.outcome import Series, TargetCrust, crust_distance, distance_at, series, target_of
from mattone_engine.heat.run import Bake
from mattone_engine.things import Surface
from mattone_engine.things.base import StrictModel
from mattone_engine.things.support import deck_of
from mattone_engine.things.text import celsius, clock, millimetres

# One step of each control: what a cook would try next.
PREHEAT_MIN, DIAL_K, ELEMENT_S, LONGER = 15.0, 15.0, 90.0, 0.12
# Of the dough and what is on it: as factors, days in the fridge and % of oil.
LESS_DOUGH, MORE_DOUGH, LESS_TOPPING, COLD_DAYS, MOST_COLD_DAYS, OIL_PCT, MOST_OIL_PCT = 0.8, 1.25, 0.5, 2.0, 5.0, 3.0, 8.0
# What comes so little nearer the wanted crust is not worth a change.
WORTH = 0.06
COLOURS = ("base_l", "rim_l", "cheese_l")


class LoggedCrust(StrictModel):
    """The crust that came out, as its cook saw it, L*; None: nobody said."""

    base_l: Annotated[float, Field(ge=5, le=95)] | None = None
    rim_l: Annotated[float, Field(ge=5, le=95)] | None = None
    cheese_l: Annotated[float, Field(ge=5, le=95)] | None = None


class NextInput(StrictModel):
    """A bake as it would be planned now, with the controls it had; when it was pulled, s; the crust that came out; and the other decks at hand."""

    plan: PlanInput
    pulled_s: Annotated[float, Field(ge=5, le=5400)]
    logged: LoggedCrust = LoggedCrust()
    others: Annotated[tuple[Surface, ...], Field(max_length=20, strict=False)] = ()


class OneChange(StrictModel):
    """One thing changed. of: what kind of thing; controls: what the bake is planned with then; pull_s: when to pull; nearer: whether that is

    nearer the wanted crust; effect: what is different, in words.
    """

    label: str
    of: Literal["control", "pull", "dough", "topping", "deck"] = "control"
    controls: Controls
    pull_s: float
    base_l: float
    rim_l: float
    cheese_l: float
    nearer: bool
    effect: str


class NextResult(StrictModel):
    """The changes there are on this rig, what helps most first; of two opposite ones the better alone is called nearer."""

    changes: list[OneChange]


class _Crust(StrictModel):
    pull_s: float
    base_l: float
    rim_l: float
    cheese_l: float
    distance: float


@dataclass(frozen=True)
class _Change:
    """One thing to change: its words, what it is about (of two about the same one is offered), and the plan with it."""

    label: str
    about: str
    of: Literal["control", "dough", "topping", "deck"]
    plan: PlanInput


def next_time(request: NextInput) -> NextResult:
    """Every single change this rig allows, baked; raises InputError where there are no controls to change."""
    controls = request.plan.controls
    if controls is None:
        raise InputError("plan.controls", "Give the controls that the bake had.")
    target = target_of(bake_of(request.plan, controls))
    same = _whole(request.plan, until_s=(1.0 + 1.5 * LONGER) * request.pulled_s)
    modelled = _at(same, target, request.pulled_s)
    before = _as_logged(modelled, request.logged, target)
    off = {name: getattr(before, name) - getattr(modelled, name) for name in COLOURS}
    tried = [*_controls(request.plan, controls), *_things(request)]
    crusts = in_parallel(lambda one: _baked(one.plan, target, off), tried)
    found = [(one.about, *_changed(one.label, one.of, one.plan, crust, before)) for one, crust in zip(tried, crusts, strict=True)]
    for label, factor in ((f"pull it {LONGER:.0%} later".replace("%", " %"), 1.0 + LONGER), (f"pull it {LONGER:.0%} sooner".replace("%", " %"), 1.0 - LONGER)):
        moved = _beside(_at(same, target, factor * request.pulled_s), off, target)
        found.append(("pull", *_changed(label, "pull", request.plan, moved, before)))
    found.sort(key=lambda one: one[1])
    told: list[OneChange] = []
    offered: set[str] = set()
    for about, _, change in found:
        # Up and down, more and less: of two opposite changes the better one is offered.
        told.append(change.model_copy(update={"nearer": change.nearer and about not in offered}))
        offered |= {about} if change.nearer else set()
    return NextResult(changes=told)


def _controls(plan: PlanInput, c: Controls) -> list[_Change]:
    """One step of each control either way, and the dial to its end."""
    hottest_c = limits_of(plan).hottest_c
    steps: list[tuple[str, str, dict[str, Any]]] = [
        (f"heat it {PREHEAT_MIN:.0f} min longer", "preheat", {"preheat_min": c.preheat_min + PREHEAT_MIN}),
        (f"heat it {PREHEAT_MIN:.0f} min less", "preheat", {"preheat_min": c.preheat_min - PREHEAT_MIN}),
        (f"dial at {celsius(c.setpoint_c + DIAL_K)}", "dial", {"setpoint_c": c.setpoint_c + DIAL_K}),
        (f"dial at {celsius(c.setpoint_c - DIAL_K)}", "dial", {"setpoint_c": c.setpoint_c - DIAL_K}),
    ]
    if plan.fire is None:
        if hottest_c > c.setpoint_c + DIAL_K + 5.0:
            steps.append((f"dial all the way up, {celsius(hottest_c)}", "dial", {"setpoint_c": hottest_c}))
        steps += [(f"level {level}", "level", {"level": level}) for level in (c.level + 1, c.level - 1)]
        steps.append(("fan off" if c.fan else "fan on", "fan", {"fan": not c.fan}))
        if c.top_element is not None:
            steps.append(("without the top element", "element", {"top_element": None}))
        else:
            steps.append((f"top element on for the first {clock(ELEMENT_S)}", "element", {"top_element": Span(on_s=0.0, off_s=ELEMENT_S)}))
    return [_Change(label, about, "control", found) for label, about, changed in steps if (found := _allowed(plan, changed)) is not None]


def _things(request: NextInput) -> list[_Change]:
    """Another deck that is at hand, and the dough and its topping otherwise."""
    plan, dough, top = request.plan, request.plan.dough, request.plan.toppings
    wanted: list[tuple[str, str, Literal["dough", "topping", "deck"], dict[str, Any]]] = []
    for one in request.others:
        if plan.fire is None and one != plan.surface and plan.has_deck and deck_of(one) is not None:
            wanted.append((f"on the {millimetres(one.thickness_mm)} {one.traits.word}", "deck", "deck", {"surface": one}))
    for factor, label in ((LESS_DOUGH, "a fifth less dough on the same area"), (MORE_DOUGH, "a quarter more dough on the same area")):
        wanted.append((label, "thickness", "dough", {"dough": dough.model_copy(update={"mass_g": factor * dough.mass_g})}))
    if dough.cold_days + COLD_DAYS <= MOST_COLD_DAYS:
        longer = dough.model_copy(update={"cold_days": dough.cold_days + COLD_DAYS})
        wanted.append((f"the dough {COLD_DAYS:.0f} days longer in the fridge", "days", "dough", {"dough": longer}))
    if dough.oil_pct + OIL_PCT <= MOST_OIL_PCT:
        wanted.append((f"{OIL_PCT:.0f} % more oil in the dough", "oil", "dough", {"dough": dough.model_copy(update={"oil_pct": dough.oil_pct + OIL_PCT})}))
    if top.mass_g > 0.0:
        wanted.append(("half the topping", "topping", "topping", {"toppings": top.model_copy(update={"mass_g": LESS_TOPPING * top.mass_g})}))
    return [_Change(label, about, of, found) for label, about, of, changed in wanted if (found := _with(plan, changed)) is not None]


def _with(plan: PlanInput, changed: dict[str, Any]) -> PlanInput | None:
    """The plan with another thing in it; None where that cannot be."""
    try:
        return PlanInput.model_validate({**dict(plan), **changed})
    except ValidationError:
        return None


def _allowed(plan: PlanInput, changed: dict[str, Any]) -> PlanInput | None:
    """The plan so changed; None where its rig or a caution forbids it."""
    assert plan.controls is not None
    try:
        return PlanInput.model_validate({**dict(plan), "controls": {**plan.controls.model_dump(), **changed}})
    except ValidationError:
        return None


def _whole(plan: PlanInput, until_s: float) -> Series:
    """The bake by its own controls, past the moment at which it was pulled."""
    assert plan.controls is not None
    bake = Bake(bake_of(plan, plan.controls), quick=True, balanced=False)
    bake.advance_to(min(5400.0, until_s))
    return series(bake.trace(balanced=False))


def _baked(plan: PlanInput, target: TargetCrust, off: dict[str, float]) -> _Crust:
    """The changed bake, pulled where it is nearest as its cook will see it."""
    assert plan.controls is not None
    seen = replace(target, base=target.base - off["base_l"], rim=target.rim - off["rim_l"], cheese=target.cheese - off["cheese_l"])
    done, found = quick_outcome(bake_of(plan, plan.controls), seen, whole=True)
    return _beside(_at(found, target, done.t_s), off, target)


def _beside(crust: _Crust, off: dict[str, float], target: TargetCrust) -> _Crust:
    """A modelled crust as far beside the model as the logged one was."""
    if not any(off.values()):
        return crust
    shades = {name: min(95.0, max(5.0, getattr(crust, name) + by)) for name, by in off.items()}
    return crust.model_copy(update={**shades, "distance": crust_distance(shades["base_l"], shades["rim_l"], shades["cheese_l"], target)})


def _at(s: Series, target: TargetCrust, at_s: float) -> _Crust:
    base, rim, cheese = (float(np.interp(at_s, s.t_s, values)) for values in (s.base_l, s.rim_l, s.cheese_l))
    index = int(np.argmin(np.abs(s.t_s - at_s)))
    return _Crust(pull_s=round(at_s, 1), base_l=base, rim_l=rim, cheese_l=cheese, distance=distance_at(s, target, index))


def _as_logged(crust: _Crust, logged: LoggedCrust, target: TargetCrust) -> _Crust:
    """The crust with what its cook saw of it in place of the model's."""
    seen = {name: value for name in COLOURS if (value := getattr(logged, name)) is not None}
    if not seen:
        return crust
    whole = crust.model_copy(update=seen)
    return whole.model_copy(update={"distance": crust_distance(whole.base_l, whole.rim_l, whole.cheese_l, target)})


def _changed(label: str, of: Literal["control", "pull", "dough", "topping", "deck"], plan: PlanInput, crust: _Crust, before: _Crust) -> tuple[float, OneChange]:
    assert plan.controls is not None
    change = OneChange(
        label=label,
        of=of,
        controls=plan.controls,
        pull_s=crust.pull_s,
        base_l=round(crust.base_l, 1),
        rim_l=round(crust.rim_l, 1),
        cheese_l=round(crust.cheese_l, 1),
        nearer=crust.distance < before.distance - WORTH,
        effect=_effect(crust, before),
    )
    return crust.distance, change


def _effect(now: _Crust, before: _Crust) -> str:
    """What is different, in words; that nothing is, where nothing can be seen."""
    words = [
        (part, word(getattr(now, name)), word(getattr(before, name)))
        for part, name, word in (("base", "base_l", colour_word), ("rim", "rim_l", colour_word), ("cheese", "cheese_l", cheese_word))
    ]
    seen = [f"{part} {new}, not {old}" for part, new, old in words if new != old]
    return f"pull at {clock(now.pull_s)}: " + ("; ".join(seen) if seen else "the same crust in words")
