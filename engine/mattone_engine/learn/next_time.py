"""From a bake to the next one with exactly one thing changed, and what that would bring.

What a cook saw of a bake is the start: where its crust, bite or crumb lay beside the model's, a changed bake is taken to lie as far beside it.
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
from mattone_engine.heat.outcome import Series, TargetCrust, crust_distance, series, target_of
from mattone_engine.heat.run import Bake
from mattone_engine.learn.texture import Bite, Crumb, Texture, beside, complaint, distance, texture_at, texture_words
from mattone_engine.things import Surface
from mattone_engine.things.base import StrictModel
from mattone_engine.things.support import deck_of
from mattone_engine.things.text import celsius, clock, millimetres

# One step of each control: what a cook would try next.
PREHEAT_MIN, DIAL_K, ELEMENT_S, LONGER = 15.0, 15.0, 90.0, 0.12
# Of the dough and what is on it: as factors, days in the fridge and % of oil.
LESS_DOUGH, MORE_DOUGH, LESS_TOPPING, COLD_DAYS, MOST_COLD_DAYS, OIL_PCT, MOST_OIL_PCT = 0.8, 1.25, 0.5, 2.0, 5.0, 3.0, 8.0
# A rim brushed with oil comes out about half a word darker: general practice, for the model knows no film of oil.
OILED_RIM_L = -5.0
# What comes so little nearer the wanted crust is not worth a change.
WORTH = 0.06
COLOURS = ("base_l", "rim_l", "cheese_l")


Kind = Literal["control", "pull", "dough", "topping", "deck", "rim"]


class LoggedCrust(StrictModel):
    """What came out, as its cook saw it: L* of the crust, bite, crumb and faults by their keys in faults.toml; None: nobody said."""

    base_l: Annotated[float, Field(ge=5, le=95)] | None = None
    rim_l: Annotated[float, Field(ge=5, le=95)] | None = None
    cheese_l: Annotated[float, Field(ge=5, le=95)] | None = None
    crisp: Bite | None = None
    crumb: Crumb | None = None
    faults: Annotated[tuple[Annotated[str, Field(max_length=30)], ...], Field(max_length=12, strict=False)] = ()


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
    of: Kind = "control"
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
    texture: Texture
    distance: float


@dataclass(frozen=True)
class _Logged:
    """The bake that was logged: as the model has it, as its cook saw it, what was promised of it, and its target."""

    target: TargetCrust
    promised: Texture
    modelled: _Crust
    seen: _Crust

    @property
    def off_l(self) -> dict[str, float]:
        """How far its crust lay beside the model's, L*."""
        return {name: getattr(self.seen, name) - getattr(self.modelled, name) for name in COLOURS}


@dataclass(frozen=True)
class _Change:
    """One thing to change: its words, what it is about (of two about the same one is offered), and the plan with it; rim_l: what that adds to its rim, L*."""

    label: str
    about: str
    of: Kind
    plan: PlanInput
    rim_l: float = 0.0


def next_time(request: NextInput) -> NextResult:
    """Every single change this rig allows, baked; raises InputError where there are no controls to change."""
    controls = request.plan.controls
    if controls is None:
        raise InputError("plan.controls", "Give the controls that the bake had.")
    same = _whole(request.plan, until_s=(1.0 + 1.5 * LONGER) * request.pulled_s)
    logged = _logged(request, controls, same)
    tried = [*_controls(request.plan, controls), *_things(request)]
    crusts = in_parallel(lambda one: _baked(one, logged), tried)
    found = [(one.about, *_changed(one.label, one.of, one.plan, crust, logged.seen)) for one, crust in zip(tried, crusts, strict=True)]
    for label, factor in ((f"pull it {LONGER:.0%} later".replace("%", " %"), 1.0 + LONGER), (f"pull it {LONGER:.0%} sooner".replace("%", " %"), 1.0 - LONGER)):
        moved = _beside(_at(same, logged.target, factor * request.pulled_s), logged)
        found.append(("pull", *_changed(label, "pull", request.plan, moved, logged.seen)))
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
    found = [_Change(label, about, of, there) for label, about, of, changed in wanted if (there := _with(plan, changed)) is not None]
    return [*found, _Change("oil on the rim", "rim", "rim", plan, OILED_RIM_L)]


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


def _logged(request: NextInput, controls: Controls, same: Series) -> _Logged:
    """What came of it, against what was promised of its controls."""
    spec = bake_of(request.plan, controls)
    target = target_of(spec)
    done, promised = quick_outcome(spec, target, whole=True)
    modelled, wanted = _at(same, target, request.pulled_s), texture_at(promised, done.t_s)
    told = request.logged
    came = complaint(told.crisp, told.crumb, frozenset(told.faults), wanted, target)
    shades = {name: value for name in COLOURS if (value := getattr(told, name)) is not None}
    return _Logged(target, wanted, modelled, _so(modelled, shades, came, wanted, target))


def _baked(change: _Change, logged: _Logged) -> _Crust:
    """The changed bake, pulled where it is nearest as its cook will see it."""
    plan, target = change.plan, logged.target
    assert plan.controls is not None
    off = logged.off_l
    seen = replace(target, base=target.base - off["base_l"], rim=target.rim - off["rim_l"] - change.rim_l, cheese=target.cheese - off["cheese_l"])
    done, found = quick_outcome(bake_of(plan, plan.controls), seen, whole=True)
    return _beside(_at(found, target, done.t_s), logged, change.rim_l)


def _beside(crust: _Crust, logged: _Logged, rim_l: float = 0.0) -> _Crust:
    """A modelled crust as far beside the model as the logged one was; rim_l: what the change adds to its rim."""
    shades = {name: min(95.0, max(5.0, getattr(crust, name) + by)) for name, by in logged.off_l.items()}
    shades["rim_l"] = min(95.0, max(5.0, shades["rim_l"] + rim_l))
    texture = beside(logged.modelled.texture, logged.seen.texture, crust.texture)
    return _so(crust, shades, texture, logged.promised, logged.target)


def _so(crust: _Crust, shades: dict[str, float], texture: Texture, promised: Texture, target: TargetCrust) -> _Crust:
    """A crust with these colours and this texture in place of its own."""
    so = crust.model_copy(update={**shades, "texture": texture})
    far = crust_distance(so.base_l, so.rim_l, so.cheese_l, target) + distance(texture, promised, target)
    return so.model_copy(update={"distance": far})


def _at(s: Series, target: TargetCrust, at_s: float) -> _Crust:
    base, rim, cheese = (float(np.interp(at_s, s.t_s, values)) for values in (s.base_l, s.rim_l, s.cheese_l))
    far = crust_distance(base, rim, cheese, target)
    return _Crust(pull_s=round(at_s, 1), base_l=base, rim_l=rim, cheese_l=cheese, texture=texture_at(s, at_s), distance=far)


def _changed(label: str, of: Kind, plan: PlanInput, crust: _Crust, before: _Crust) -> tuple[float, OneChange]:
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
    seen = [f"{part} {new}, not {old}" for part, new, old in words if new != old] + texture_words(now.texture, before.texture)
    return f"pull at {clock(now.pull_s)}: " + ("; ".join(seen) if seen else "the same crust in words")
