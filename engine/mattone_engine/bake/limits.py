"""Between what a rig may be set, and what of the controls it has not."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

from mattone_engine.bake.controls import Controls
from mattone_engine.things import HearthLimits, Pan, Surface
from mattone_engine.things.capabilities import Fire
from mattone_engine.things.hearth import LOWEST_SETPOINT_C

# What is printed on baking paper differs; where the cook does not tell, the lowest usual one holds.
PARCHMENT_LIMIT_C = 215.0


class Asked(Protocol):
    """A rig, and whether paper lies under the dough."""

    @property
    def hearth(self) -> HearthLimits: ...
    @property
    def surface(self) -> Surface | None: ...
    @property
    def pan(self) -> Pan | None: ...
    @property
    def coating_limit_c(self) -> float | None: ...
    @property
    def parchment(self) -> bool: ...
    @property
    def parchment_limit_c(self) -> float: ...
    @property
    def has_sheet(self) -> bool: ...
    @property
    def spares(self) -> tuple[Surface, ...]: ...
    @property
    def fire(self) -> Fire | None: ...
    @property
    def may_hob(self) -> bool: ...
    @property
    def may_move(self) -> bool: ...
    @property
    def may_heat_empty(self) -> bool: ...
    @property
    def on_grate(self) -> bool: ...


@dataclass(frozen=True)
class Limits:
    """What a rig may be set to. hottest_c ends where dial or fire, paper or coating does.

    may_glow: its top element may be used. may_hob: it may start on a burner.
    """

    least_c: float
    hottest_c: float
    ended_by: Literal["hearth", "paper", "coating"]
    may_use_top_element: bool
    may_hob: bool


def limits_of(request: Asked) -> Limits:
    """What this rig may be set to: worked out once for a plan.

    Paper and coating stand the air as it really is, not as the dial says.
    """
    bounds: list[tuple[float, Literal["hearth", "paper", "coating"]]] = [(request.hearth.max_setpoint_c, "hearth")]
    error_k = request.hearth.dial_error_k if request.fire is None else 0.0
    if request.parchment:
        bounds.append((request.parchment_limit_c - error_k, "paper"))
    if request.coating_limit_c is not None and request.pan is not None:
        bounds.append((request.coating_limit_c - error_k, "coating"))
    hottest_c, ended_by = min(bounds, key=lambda bound: bound[0])
    lit = request.hearth.top_element_usable and request.hearth.top_element_kw > 0
    return Limits(
        least_c=request.fire.lowest_c if request.fire is not None else LOWEST_SETPOINT_C,
        hottest_c=hottest_c,
        ended_by=ended_by,
        # Never over paper or a coating.
        may_use_top_element=request.fire is None and lit and not request.parchment and request.coating_limit_c is None,
        may_hob=request.may_hob,
    )


def refuse_controls(request: Asked, limits: Limits, c: Controls) -> None:
    """Raise ValueError, by the control's path, for what this rig does not have or cautions forbid."""
    _refuse_temperature(request, limits, c)
    if request.fire is not None:
        _refuse_of_fire(request.fire, request.hearth, c)
    else:
        _refuse_of_oven(request, limits, c)
    if c.hot_pan and not request.may_heat_empty:
        raise ValueError("controls.hot_pan: only a bare tray under a base that is shaped beside it is heated empty; leave it out.")
    if c.hob_s is not None and not limits.may_hob:
        raise ValueError("controls.hob_s: a hob start needs a hob and a bare metal pan of iron, steel or dark aluminium.")
    if c.paper_out_s is not None and not (request.parchment and request.pan is None):
        raise ValueError("controls.paper_out_s: paper is slid out from under a base on a deck; this one lies on none. Leave that step out.")
    _refuse_levels(request, c)
    if sum(at is not None for at in (c.par_bake_s, c.cheese_s, c.flip_s)) > 1:
        raise ValueError("controls.par_bake_s: the base is topped once; keep one of par-bake, late cheese and flip.")
    if c.flip_s is not None and not request.on_grate:
        raise ValueError("controls.flip_s: only a base on a bare grate is flipped.")


def _refuse_temperature(request: Asked, limits: Limits, c: Controls) -> None:
    hearth = request.hearth
    if c.level > hearth.levels:
        raise ValueError(f"controls.level: level {c.level} is above the top level, {hearth.levels}.")
    if c.setpoint_c > hearth.max_setpoint_c:
        end = "the dial has; it ends" if request.fire is None else "this fire gives; it ends"
        raise ValueError(f"controls.setpoint_c: {c.setpoint_c:g} is more than {end} at {hearth.max_setpoint_c:g}.")
    if c.setpoint_c > limits.hottest_c:
        what = "the baking paper" if limits.ended_by == "paper" else "the pan's coating"
        raise ValueError(f"controls.setpoint_c: {{{c.setpoint_c:g} C}} is too hot for {what}: set the dial to {{{limits.hottest_c:g} C}} or less.")


def _refuse_of_fire(fire: Fire, hearth: HearthLimits, c: Controls) -> None:
    held_c = fire.held_c(hearth.max_setpoint_c, c.dome_over_k)
    if c.setpoint_c > held_c + 0.5:
        raise ValueError(
            f"controls.setpoint_c: under so weak a top this fire holds a face at {{{held_c:.0f} C}}, not {{{c.setpoint_c:g} C}}; "
            f"launch cooler, or nearer the {fire.top}."
        )
    for name in ("fan", "top_element", "shield", "move", "hob_s", "overhead"):
        if getattr(c, name):
            raise ValueError(f"controls.{name}: a {hearth.traits.word} has no {name.removesuffix('_s').replace('_', ' ')}; leave it out.")
    if c.dome_over_k is not None and not fire.dome_low_k - 1e-6 <= c.dome_over_k <= fire.dome_high_k + 1e-6:
        raise ValueError(
            f"controls.dome_over_k: its top stands between {{{fire.dome_low_k:g} K}} and {{{fire.dome_high_k:g} K}} over the floor; choose between."
        )


def _refuse_of_oven(request: Asked, limits: Limits, c: Controls) -> None:
    hearth = request.hearth
    if c.dome_over_k is not None:
        raise ValueError("controls.dome_over_k: an oven with a dial has no flame to set; leave it out.")
    if c.top_element is not None and not (hearth.top_element_usable and hearth.top_element_kw > 0):
        raise ValueError("controls.top_element: this hearth has no top element that works with the door shut.")
    if c.top_element is not None and not limits.may_use_top_element:
        what = "baking paper" if request.parchment else "a coated pan"
        raise ValueError(f"controls.top_element: never over {what}; leave one of the two out.")
    if c.fan and not hearth.has_fan:
        raise ValueError("controls.fan: this hearth has no fan.")
    if not c.fan and hearth.fan_needed:
        raise ValueError("controls.fan: this hearth's fan cannot be switched off.")


def _refuse_levels(request: Asked, c: Controls) -> None:
    levels = request.hearth.levels
    changes_decks = c.move is not None and c.overhead is not None and c.move.level == c.overhead.level and request.pan is None
    if c.move is not None and not request.may_move and not changes_decks:
        raise ValueError("controls.move: a hot deck stays where it lies; only a pan, a tray, or the pizza onto a second deck is moved. Leave the move out.")
    if c.move is not None and c.move.level == c.level:
        raise ValueError(f"controls.move: it stands on level {c.level} already; choose another level or leave the move out.")
    if c.shield is not None and not request.has_sheet:
        raise ValueError("controls.shield: there is no empty sheet or tray here to shield with; leave the shield out.")
    if c.shield is not None and c.level >= levels:
        raise ValueError(f"controls.shield: nothing goes above the top level, {levels}; bake a level lower or leave the shield out.")
    if c.shield is not None and c.top_element is not None and c.shield.on_s < c.top_element.off_s and c.top_element.on_s < c.shield.off_s:
        raise ValueError("controls.shield: a shield under the top element keeps its heat from the top; leave one of the two out.")
    if c.move is not None and c.move.level > levels:
        raise ValueError(f"controls.move: level {c.move.level} is above the top level, {levels}.")
    if c.overhead is None:
        return
    above = c.overhead.level > c.level
    if c.overhead.level == c.level or c.overhead.level > levels:
        raise ValueError(f"controls.overhead: the second deck lies above or below level {c.level} and within {levels}; choose another level for it.")
    if not above and not changes_decks:
        raise ValueError("controls.overhead: a second deck below is for the pizza to go down onto; add the move to its level, or leave it out.")
    if not above and c.level - c.overhead.level < 2:
        raise ValueError("controls.overhead: leave a level free between the two decks, for hands and the rim; put one higher or the other lower.")
    if c.move is not None and above and c.move.level >= c.overhead.level and not changes_decks:
        raise ValueError("controls.move: the second deck is in the way; move to a level below it.")
    if not any((s.kind, s.thickness_mm) == (c.overhead.kind, c.overhead.thickness_mm) for s in request.spares):
        raise ValueError("controls.overhead: there is no such second deck in this kitchen.")
