"""The one bake that a set of controls makes of a rig."""

from __future__ import annotations

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.fire import short_by_k
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.things import Event, Hearth, SimulateInput, Toppings

# How cold the cheese comes, C: its share of the toppings decides what that does.
CHEESE_C = {"room": 18.0, "fridge": 6.0, "frozen": -14.0}


def hearth_of(request: PlanInput, controls: Controls) -> Hearth:
    """The hearth as these controls set it."""
    limits, fire = request.hearth, request.fire
    if fire is not None:
        over = controls.dome_over_k if controls.dome_over_k is not None else fire.dome_usual_k
        # What lies over a weak top loses heat upwards: the fire under it is hotter than its face.
        face_c = controls.setpoint_c
        floor_c = face_c + max(0.0, -over) / 3.0
        air_c = None if fire.air_share == 0.5 else min(400.0, face_c + fire.air_share * over)
        return Hearth(kind=limits.kind, levels=1, level=1, floor_c=floor_c, dome_c=face_c + over, air_c=air_c, rack_cm2=limits.room_cm2)
    return Hearth(
        kind=limits.kind,
        setpoint_c=controls.setpoint_c,
        fan=controls.fan,
        levels=limits.levels,
        level=controls.level,
        dial_error_k=limits.dial_error_k,
        power_kw=limits.power_kw,
        top_element_kw=limits.top_element_kw,
        loss_factor=limits.loss_factor,
        deck_factor=limits.deck_factor,
        rack_cm2=limits.room_cm2,
    )


def bake_of(request: PlanInput, controls: Controls) -> SimulateInput:
    """The one bake that these controls make of the rig."""
    c = controls
    events: list[Event] = []
    for span, name in ((c.top_element, "top_element"), (c.shield, "shield")):
        if span is not None:
            events.append(Event(at_s=span.on_s, do=f"{name}_on"))  # type: ignore[arg-type]
            events.append(Event(at_s=span.off_s, do=f"{name}_off"))  # type: ignore[arg-type]
    if c.turn_s is not None:
        events.append(Event(at_s=c.turn_s, do="turn"))
    if c.move is not None:
        events.append(Event(at_s=c.move.at_s, do="move", level=c.move.level))
    if c.hob_s is not None and request.hob_kw is not None:
        events.append(Event(at_s=-c.hob_s, do="hob_on", power_kw=request.hob_kw))
    if c.flip_s is not None:
        events.append(Event(at_s=c.flip_s, do="flip"))
    topped_s = c.par_bake_s if c.par_bake_s is not None else c.flip_s
    if topped_s is not None:
        events.append(Event(at_s=topped_s, do="add_topping", seconds=25.0))
    if c.cheese_s is not None:
        events.append(Event(at_s=c.cheese_s, do="add_cheese", seconds=20.0))
    hearth, surface = hearth_of(request, c), request.surface
    if request.fire is not None and surface is not None and surface.deck_c is None:
        surface = surface.model_copy(update={"deck_c": max(40.0, c.setpoint_c - short_by_k(hearth, surface, c.preheat_min))})
    return SimulateInput(
        hearth=hearth,
        surface=surface,
        preheat_min=c.preheat_min,
        pan=request.pan,
        dough=request.dough if c.dough is None else c.dough.made(request.dough),
        toppings=request.toppings if c.cheese == "room" else colder(request.toppings, CHEESE_C[c.cheese]),
        overhead=c.overhead,
        parchment=request.parchment,
        events=tuple(sorted(events, key=lambda event: event.at_s)),
        style=request.style,
        own_style=request.own_style,
        target=request.target,
        altitude_m=request.altitude_m,
        knowledge=request.knowledge,
    )


def colder(toppings: Toppings, cheese_c: float) -> Toppings:
    """The toppings with half of their mass, the cheese, at cheese_c."""
    return toppings.model_copy(update={"temp_c": max(-20.0, 0.5 * (toppings.temp_c + cheese_c))})
