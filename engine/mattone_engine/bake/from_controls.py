"""The one bake that a set of controls makes of a rig."""

from __future__ import annotations

from functools import lru_cache

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.fire import short_by_k
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.things import Event, Hearth, HearthLimits, SimulateInput, Toppings
from mattone_engine.things.capabilities import LOST_UPWARDS

# How cold the cheese comes, C: its share of the toppings decides what that does.
CHEESE_C = {"room": 18.0, "fridge": 6.0, "frozen": -14.0}

# Beside a flame a base is turned so long and so often: by then the last of them is done.
TURNED_UNTIL_S, MOST_TURNS = 300.0, 15

# What is done at the hearth's own switches: refused by its controls, if at all.
ELEMENT = ("top_element_on", "top_element_off")


def hearth_of(request: PlanInput, controls: Controls) -> Hearth:
    """The hearth as these controls set it."""
    return hearth_set(request.hearth, controls.setpoint_c, controls.level, controls.fan, controls.dome_over_k, request.dough.area_cm2)


@lru_cache(maxsize=2048)
def hearth_set(limits: HearthLimits, setpoint_c: float, level: int, fan: bool, dome_over_k: float | None = None, base_cm2: float = 0.0) -> Hearth:
    """A hearth set to a dial or floor in C, a level, and over a fire its top so far over that.

    base_cm2: area of the base, which a rack of unknown size holds.
    """
    fire = limits.traits.fire
    if fire is not None:
        over = dome_over_k if dome_over_k is not None else fire.dome_usual_k
        # What lies over a weak top loses heat upwards: the fire under it is hotter than its face.
        floor_c = setpoint_c + LOST_UPWARDS * max(0.0, -over)
        air_c = None if fire.air_share == 0.5 else min(400.0, setpoint_c + fire.air_share * over)
        return Hearth(kind=limits.kind, levels=1, level=1, floor_c=floor_c, dome_c=setpoint_c + over, air_c=air_c, rack_cm2=limits.room_cm2)
    return Hearth(
        kind=limits.kind,
        setpoint_c=setpoint_c,
        fan=fan,
        levels=limits.levels,
        level=level,
        dial_error_k=limits.dial_error_k,
        power_kw=limits.power_kw,
        top_element_kw=limits.top_element_kw,
        top_stop_dial_c=limits.max_setpoint_c + limits.top_stop_over_k,
        loss_factor=limits.loss_factor,
        deck_factor=limits.deck_factor,
        rack_cm2=max(limits.room_cm2, min(base_cm2, limits.largest_cm2)),
    )


def turns_often(request: PlanInput) -> bool:
    """Whether a base is turned again and again: beside the flame of an oven without a hood."""
    return request.fire is not None and not request.fire.hooded


def turns(request: PlanInput, every_s: float) -> list[float]:
    """When it is turned, s after launch: once, or beside a flame every so long."""
    if not turns_often(request):
        return [every_s]
    return [every_s * i for i in range(1, MOST_TURNS + 1) if i == 1 or every_s * i <= TURNED_UNTIL_S]


def bake_of(request: PlanInput, controls: Controls, like: SimulateInput | None = None) -> SimulateInput:
    """The one bake that these controls make of the rig; like: another of the same request, whose checks need not be made again."""
    c = controls
    # Each has been checked as the control it comes from.
    events: list[Event] = []
    for span, name in ((c.top_element, "top_element"), (c.shield, "shield")):
        if span is not None:
            events.append(Event(at_s=span.on_s, do=f"{name}_on"))  # type: ignore[arg-type]
            events.append(Event(at_s=span.off_s, do=f"{name}_off"))  # type: ignore[arg-type]
    if c.turn_s is not None:
        events += [Event(at_s=at_s, do="turn") for at_s in turns(request, c.turn_s)]
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
    if c.paper_out_s is not None:
        events.append(Event(at_s=c.paper_out_s, do="paper_out"))
    hearth, surface = hearth_of(request, c), request.surface
    if request.fire is not None and surface is not None and surface.deck_c is None:
        surface = surface.model_copy(update={"deck_c": max(40.0, c.setpoint_c - short_by_k(hearth, surface, c.preheat_min))})
    changes = {
        "hearth": hearth,
        "surface": surface,
        "preheat_min": c.preheat_min,
        "dough": request.dough if c.dough is None else c.dough.made(request.dough),
        "toppings": request.toppings if c.cheese == "room" else colder(request.toppings, CHEESE_C[c.cheese]),
        "overhead": c.overhead,
        "pan": request.pan.model_copy(update={"preheated": True}) if c.hot_pan and request.pan is not None else request.pan,
        "events": tuple(sorted(events, key=lambda event: event.at_s)),
    }
    if like is None or c.overhead is not None or any(event.do not in ELEMENT for event in events):
        return SimulateInput.model_validate(
            {name: getattr(request, name) for name in ("parchment", "style", "own_style", "target", "altitude_m", "knowledge")} | changes
        )
    # Nothing is done during it that its rig could still refuse: it stands as the other does.
    return like.model_copy(update=changes)


def colder(toppings: Toppings, cheese_c: float) -> Toppings:
    """The toppings with half of their mass, the cheese, at cheese_c."""
    return toppings.model_copy(update={"temp_c": max(-20.0, 0.5 * (toppings.temp_c + cheese_c))})
