"""Two bakes side by side: what differed in, what differed out, and what may be concluded."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from pydantic import Field

from mattone_engine.things.base import StrictModel
from mattone_engine.things.text import celsius, clock

# Less than this is no change anybody made: minutes of heat, K of a dial, a share of dough or of time; L* that two looks may differ by.
SAME_MIN, SAME_K, SAME_SHARE, SAME_L = 3.0, 3.0, 0.06, 5.0
# From so many changes on nothing can be said of any of them.
TOO_MANY = 3


class BakeFacts(StrictModel):
    """What went into a bake and what came out; None: nobody said. rig, style: as they are called."""

    rig: str
    style: str
    setpoint_c: float
    level: int
    preheat_min: float
    fan: bool = False
    top_element_s: float = 0.0
    deck_c: float | None = None
    loading_g_cm2: Annotated[float, Field(gt=0)]
    hydration_pct: float
    toppings_g_cm2: float = 0.0
    pulled_s: Annotated[float, Field(gt=0)]
    base_l: float | None = None
    rim_l: float | None = None
    cheese_l: float | None = None
    crisp: str | None = None
    crumb: str | None = None
    score: int | None = None
    faults: list[str] = []


class Difference(StrictModel):
    """One thing that differs, as it was in the one and in the other."""

    name: str
    one: str
    other: str


class Compared(StrictModel):
    """changed: what went in otherwise; came: what came out otherwise; say: what that allows to conclude."""

    changed: list[Difference]
    came: list[Difference]
    say: str


def compare(one: BakeFacts, other: BakeFacts) -> Compared:
    """What differs between two bakes, from the one to the other."""
    changed, came = _went_in(one, other), _came_out(one, other)
    return Compared(changed=changed, came=came, say=_conclusion(changed, came))


def _went_in(one: BakeFacts, other: BakeFacts) -> list[Difference]:
    found = [
        _words("rig", one.rig, other.rig),
        _words("style", one.style, other.style),
        _numbers("dial", one.setpoint_c, other.setpoint_c, SAME_K, celsius),
        _words("level", str(one.level), str(other.level)),
        _numbers("heated for", one.preheat_min, other.preheat_min, SAME_MIN, lambda value: f"{value:.0f} min"),
        _words("fan", "on" if one.fan else "off", "on" if other.fan else "off"),
        _numbers("top element", one.top_element_s, other.top_element_s, 15.0, clock),
        _numbers("dough", one.loading_g_cm2, other.loading_g_cm2, SAME_SHARE * one.loading_g_cm2, lambda value: f"{value:.2f} g/cm2"),
        _numbers("water of the flour", one.hydration_pct, other.hydration_pct, 1.5, lambda value: f"{value:.0f} %"),
        _numbers("topping", one.toppings_g_cm2, other.toppings_g_cm2, 0.12 * max(one.toppings_g_cm2, 0.05), lambda value: f"{value:.2f} g/cm2"),
        _numbers("time in the oven", one.pulled_s, other.pulled_s, SAME_SHARE * one.pulled_s, clock),
    ]
    return [difference for difference in found if difference is not None]


def _came_out(one: BakeFacts, other: BakeFacts) -> list[Difference]:
    found = [
        _numbers("deck at launch", one.deck_c, other.deck_c, 8.0, celsius),
        *(
            _numbers(f"{part}, L*", getattr(one, f"{part}_l"), getattr(other, f"{part}_l"), SAME_L, lambda value: f"{value:.0f}")
            for part in ("base", "rim", "cheese")
        ),
        _words("bite", one.crisp, other.crisp),
        _words("crumb", one.crumb, other.crumb),
        _words("score", None if one.score is None else str(one.score), None if other.score is None else str(other.score)),
        _words("faults", ", ".join(sorted(one.faults)) or "none", ", ".join(sorted(other.faults)) or "none"),
    ]
    return [difference for difference in found if difference is not None]


def _words(name: str, one: str | None, other: str | None) -> Difference | None:
    return Difference(name=name, one=one, other=other) if one is not None and other is not None and one != other else None


def _numbers(name: str, one: float | None, other: float | None, same: float, told: Callable[[float], str]) -> Difference | None:
    if one is None or other is None or abs(other - one) <= same:
        return None
    return Difference(name=name, one=told(one), other=told(other))


def _conclusion(changed: list[Difference], came: list[Difference]) -> str:
    outcome = ", ".join(f"{one.name} {one.other} instead of {one.one}" for one in came)
    if not changed:
        return (
            f"Nothing was changed that was told: {outcome or 'and nothing came out otherwise'}. What differs is the day, or the eye."
            if came
            else ("Nothing was changed that was told, and nothing came out otherwise.")
        )
    if len(changed) == 1:
        only = changed[0]
        return f"Only one thing was changed: {only.name}, from {only.one} to {only.other}. " + (
            f"What came of it: {outcome}." if came else "It changed nothing that was seen."
        )
    if len(changed) < TOO_MANY:
        names = " and ".join(one.name for one in changed)
        return f"Two things were changed, {names}: either may be why" + (f" for {outcome}." if came else "; nothing came out otherwise.")
    return f"{len(changed)} things were changed: nothing can be concluded of any of them. Change one, and compare again."
