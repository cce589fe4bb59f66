"""What hands can do at this moment of a bake, on this rig, that no caution forbids."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from mattone_engine.bake.limits import limits_of
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.things import Event, SimulateInput

# An element lit for less has hardly begun to glow; what has less left than this is let be, s.
SHORTEST_LIT_S = 60.0
WORTH_S = 30.0
# On a burner at the end, s; a dial turned down by, K.
HOB_S = (30.0, 60.0)
DIAL_DOWN_K = 40.0
# A dial needs so long to be felt, s.
DIAL_FELT_S = 150.0


@dataclass(frozen=True)
class Possible:
    """One thing to do now: its name, the controls it is, and the kinds of planned controls that it takes the place of."""

    key: str
    gives: tuple[Event, ...] = ()
    instead_of: tuple[str, ...] = ()

    def on(self, events: tuple[Event, ...], now_s: float) -> tuple[Event, ...]:
        """The controls of a bake with this done at now_s."""
        kept = [e for e in events if e.at_s < now_s - 1e-9 or e.do not in self.instead_of]
        return tuple(sorted((*kept, *self.gives), key=lambda e: (e.at_s, e.do)))


@dataclass(frozen=True)
class Stands:
    """How the hearth is set at a moment."""

    element: bool
    shield: bool
    fan: bool
    level: int
    lifted: bool
    topped: bool
    flames: int


def stands_at(spec: SimulateInput, now_s: float) -> Stands:
    """How the controls stand at now_s."""
    past = [e for e in sorted(spec.events, key=lambda e: e.at_s) if e.at_s <= now_s + 1e-9]

    def last(on: str, off: str, begun: bool = False) -> bool:
        return next((e.do == on for e in reversed(past) if e.do in (on, off)), begun)

    return Stands(
        element=last("top_element_on", "top_element_off"),
        shield=last("shield_on", "shield_off"),
        fan=last("fan_on", "fan_off", spec.hearth.fan),
        level=next((e.level for e in reversed(past) if e.do == "move" and e.level is not None), spec.hearth.level),
        lifted=any(e.do == "lift" for e in past),
        topped=not any(e.do in ("add_topping", "add_cheese") and e.at_s > now_s for e in spec.events),
        flames=sum((e.do == "flame_up") - (e.do == "flame_down") for e in past),
    )


ELEMENT, SHIELD = ("top_element_on", "top_element_off"), ("shield_on", "shield_off")


def possible(request: PlanInput, spec: SimulateInput, now_s: float, left_s: float, *, uneven: bool = False) -> list[Possible]:
    """What can be done at now_s beside going on, where about left_s are left; uneven: one side is seen to be darker."""
    stands = stands_at(spec, now_s)
    found: list[Possible] = []
    if left_s >= WORTH_S and stands.topped:
        found += [*_overhead(request, stands, now_s, left_s), *_moved(request, spec, stands, now_s), *_moved_air(request, stands, now_s)]
        found += [*_under(request, spec, stands, now_s), *_dial(request, spec, now_s, left_s), *_flame(request, stands, now_s)]
    if uneven:
        found.append(Possible("turn", (Event(at_s=now_s, do="turn"),), ("turn",)))
    return found


def _overhead(request: PlanInput, stands: Stands, now_s: float, left_s: float) -> Iterable[Possible]:
    """The element above, and a sheet between."""
    off, on = Event(at_s=now_s, do="top_element_off"), Event(at_s=now_s, do="top_element_on")
    if stands.element:
        yield Possible("element_off", (off,), ELEMENT)
    elif limits_of(request).may_use_top_element and not stands.shield and left_s >= SHORTEST_LIT_S:
        yield Possible("element_on", (on,), ELEMENT)
        if left_s >= 2.0 * SHORTEST_LIT_S:
            yield Possible("element_minute", (on, Event(at_s=now_s + SHORTEST_LIT_S, do="top_element_off")), ELEMENT)
    if stands.shield:
        yield Possible("shield_off", (Event(at_s=now_s, do="shield_off"),), SHIELD)
    elif request.has_sheet and request.fire is None and not stands.element and stands.level < request.hearth.levels:
        yield Possible("shield", (Event(at_s=now_s, do="shield_on"),), (*SHIELD, *ELEMENT))


def _moved(request: PlanInput, spec: SimulateInput, stands: Stands, now_s: float) -> Iterable[Possible]:
    """A pan or tray to another level, under what hangs above."""
    if not request.may_move:
        return
    highest = min(
        [request.hearth.levels, *([spec.overhead.level - 1] if spec.overhead is not None else []), *([request.hearth.levels - 1] if stands.shield else [])]
    )
    for by in (-2, -1, 1, 2):
        if 1 <= stands.level + by <= highest:
            yield Possible(f"level_{stands.level + by}", (Event(at_s=now_s, do="move", level=stands.level + by),), ("move",))


def _moved_air(request: PlanInput, stands: Stands, now_s: float) -> Iterable[Possible]:
    if request.fire is None and request.hearth.has_fan and request.hearth.fan_can_be_off:
        name = "fan_off" if stands.fan else "fan_on"
        yield Possible(name, (Event.model_validate({"at_s": now_s, "do": name}),), ("fan_on", "fan_off"))


def _under(request: PlanInput, spec: SimulateInput, stands: Stands, now_s: float) -> Iterable[Possible]:
    """What the base gets: off its deck onto a cool tray, or a burner under the pan."""
    if spec.has_deck and spec.pan is None and not stands.lifted and not request.on_grate:
        yield Possible("lift", (Event(at_s=now_s, do="lift"),))
    if request.may_hob and request.hob_kw is not None and not any(e.do == "hob_on" and e.at_s >= 0.0 for e in spec.events):
        for seconds in HOB_S:
            burner = (Event(at_s=now_s, do="hob_on", power_kw=request.hob_kw), Event(at_s=now_s + seconds, do="hob_off"))
            yield Possible(f"hob_{seconds:.0f}", burner)


def _dial(request: PlanInput, spec: SimulateInput, now_s: float, left_s: float) -> Iterable[Possible]:
    if request.fire is not None or left_s < DIAL_FELT_S:
        return
    now_c = next((e.setpoint_c for e in reversed(spec.events) if e.do == "setpoint" and e.at_s <= now_s and e.setpoint_c is not None), spec.hearth.setpoint_c)
    highest = limits_of(request).hottest_c
    if highest >= now_c + 10.0:
        yield Possible("dial_up", (Event(at_s=now_s, do="setpoint", setpoint_c=min(350.0, highest)),), ("setpoint",))
    if now_c - DIAL_DOWN_K >= 120.0:
        yield Possible("dial_down", (Event(at_s=now_s, do="setpoint", setpoint_c=now_c - DIAL_DOWN_K),), ("setpoint",))


def _flame(request: PlanInput, stands: Stands, now_s: float) -> Iterable[Possible]:
    if request.fire is None:
        return
    if stands.flames > -1:
        yield Possible("flame_down", (Event(at_s=now_s, do="flame_down"),))
    if stands.flames < 1:
        yield Possible("flame_up", (Event(at_s=now_s, do="flame_up"),))
