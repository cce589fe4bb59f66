"""From a bake to the next one with exactly one thing changed, and what that would bring."""

from __future__ import annotations

from typing import Annotated, Any

import numpy as np
from pydantic import Field, ValidationError

from mattone_engine.bake.controls import Controls, Span
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.simulate import quick_outcome
from mattone_engine.errors import InputError
from mattone_engine.heat.colour import cheese_word, colour_word
from mattone_engine.heat.outcome import Series, TargetCrust, crust_distance, distance_at, series, target_of
from mattone_engine.heat.run import Bake
from mattone_engine.things.base import StrictModel
from mattone_engine.things.text import celsius, clock

# One step of each control: what a cook would try next.
PREHEAT_MIN, DIAL_K, ELEMENT_S, LONGER = 15.0, 15.0, 90.0, 0.12
# What comes so little nearer the wanted crust is not worth a change.
WORTH = 0.06
COLOURS = ("base_l", "rim_l", "cheese_l")


class LoggedCrust(StrictModel):
    """The crust that came out, as its cook saw it, L*; None: nobody said."""

    base_l: Annotated[float, Field(ge=5, le=95)] | None = None
    rim_l: Annotated[float, Field(ge=5, le=95)] | None = None
    cheese_l: Annotated[float, Field(ge=5, le=95)] | None = None


class NextInput(StrictModel):
    """A bake as it would be planned now, with the controls it had; when it was pulled, s; and the crust that came out."""

    plan: PlanInput
    pulled_s: Annotated[float, Field(ge=5, le=5400)]
    logged: LoggedCrust = LoggedCrust()


class OneChange(StrictModel):
    """One thing changed. pull_s: when to pull then; nearer: whether that is nearer the wanted crust; effect: what is different, in words."""

    label: str
    controls: Controls
    pull_s: float
    base_l: float
    rim_l: float
    cheese_l: float
    nearer: bool
    effect: str


class NextResult(StrictModel):
    """The changes there are on this rig, what helps most first."""

    changes: list[OneChange]


class _Crust(StrictModel):
    pull_s: float
    base_l: float
    rim_l: float
    cheese_l: float
    distance: float


def next_time(request: NextInput) -> NextResult:
    """Every single change this rig allows, baked; raises InputError where there are no controls to change."""
    controls = request.plan.controls
    if controls is None:
        raise InputError("plan.controls", "Give the controls that the bake had.")
    target = target_of(bake_of(request.plan, controls))
    tried = [(label, plan) for label, changed in _changes(request.plan, controls) if (plan := _allowed(request.plan, changed)) is not None]
    same = _whole(request.plan, until_s=(1.0 + 1.5 * LONGER) * request.pulled_s)
    modelled = _at(same, target, request.pulled_s)
    before = _as_logged(modelled, request.logged, target)
    off = {name: getattr(before, name) - getattr(modelled, name) for name in COLOURS}
    crusts = in_parallel(lambda plan: _baked(plan, target), [plan for _, plan in tried])
    found = [_told(label, plan, crust, before) for (label, plan), crust in zip(tried, crusts, strict=True)]
    for label, factor in ((f"pull it {LONGER:.0%} later".replace("%", " %"), 1.0 + LONGER), (f"pull it {LONGER:.0%} sooner".replace("%", " %"), 1.0 - LONGER)):
        moved = _at(same, target, factor * request.pulled_s)
        # The same bake: what came out paler or darker than modelled is so a minute later, too.
        seen = LoggedCrust(**{name: min(95.0, max(5.0, getattr(moved, name) + by)) for name, by in off.items() if by})
        found.append(_told(label, request.plan, _as_logged(moved, seen, target), before))
    return NextResult(changes=[one for _, one in sorted(found, key=lambda pair: pair[0])])


def _changes(plan: PlanInput, c: Controls) -> list[tuple[str, dict[str, Any]]]:
    """One step of each control either way."""
    found: list[tuple[str, dict[str, Any]]] = [
        (f"heat it {PREHEAT_MIN:.0f} min longer", {"preheat_min": c.preheat_min + PREHEAT_MIN}),
        (f"heat it {PREHEAT_MIN:.0f} min less", {"preheat_min": c.preheat_min - PREHEAT_MIN}),
        (f"dial at {celsius(c.setpoint_c + DIAL_K)}", {"setpoint_c": c.setpoint_c + DIAL_K}),
        (f"dial at {celsius(c.setpoint_c - DIAL_K)}", {"setpoint_c": c.setpoint_c - DIAL_K}),
    ]
    if plan.fire is None:
        found += [(f"level {c.level + 1}", {"level": c.level + 1}), (f"level {c.level - 1}", {"level": c.level - 1})]
        found.append(("fan off" if c.fan else "fan on", {"fan": not c.fan}))
        if c.top_element is not None:
            found.append(("without the top element", {"top_element": None}))
        else:
            found.append((f"top element on for the first {clock(ELEMENT_S)}", {"top_element": Span(on_s=0.0, off_s=ELEMENT_S)}))
    return found


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


def _baked(plan: PlanInput, target: TargetCrust) -> _Crust:
    assert plan.controls is not None
    done, found = quick_outcome(bake_of(plan, plan.controls), target, whole=True)
    return _at(found, target, done.t_s)


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


def _told(label: str, plan: PlanInput, crust: _Crust, before: _Crust) -> tuple[float, OneChange]:
    assert plan.controls is not None
    change = OneChange(
        label=label,
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
    seen = [f"{part} {new} instead of {old}" for part, new, old in words if new != old]
    return f"pull at {clock(now.pull_s)}: " + (", ".join(seen) if seen else "the same crust in words")
