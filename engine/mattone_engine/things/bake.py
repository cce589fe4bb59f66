"""One bake as it is asked of the engine."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.things.base import OLDER_BASE, StrictModel
from mattone_engine.things.capabilities import CeilingKind, OneOf
from mattone_engine.things.dough import Dough, Toppings
from mattone_engine.things.hearth import Hearth
from mattone_engine.things.knowledge import GENERAL, Knowledge
from mattone_engine.things.style import Style, styles
from mattone_engine.things.support import Pan, Surface, deck_of

ColourWord = Literal["pale", "blond", "golden", "golden-brown", "brown", "dark", "charred"]
StyleKey = Annotated[str, OneOf(lambda: styles())]
Crumb = Literal["soft", "even", "crisp"]
EventKind = Literal[
    "top_element_on",
    "top_element_off",
    "turn",
    "move",
    "shield_on",
    "shield_off",
    "fan_on",
    "fan_off",
    "setpoint",
    "door",
    "hob_on",
    "hob_off",
    "add_topping",
    "add_cheese",
    "paper_out",
    "flip",
    "lift",
    "flame_down",
    "flame_up",
]


class Event(StrictModel):
    """Something the cook does, seconds after launch (negative: before it, while heating).

    `door` stands open for `seconds`. A hob before launch heats the pan with the dough in it; after
    launch the pan stands on the hob until `hob_off`. `add_topping` puts the toppings on a base
    that has baked bare until then, `add_cheese` the cheese on a base that had its sauce from the
    start. `flip` turns a bare base over: what was below is then under the sauce. `lift` puts a base from
    its deck onto a cool thin tray; `flame_down` and `flame_up` turn a fire's flame.
    """

    at_s: Annotated[float, Field(ge=-7200, le=5400)]
    do: EventKind
    level: Annotated[int, Field(ge=1, le=8)] | None = None
    setpoint_c: Annotated[float, Field(ge=50, le=350)] | None = None
    power_kw: Annotated[float, Field(ge=0.2, le=4)] | None = None
    seconds: Annotated[float, Field(ge=1, le=120)] = 15.0

    @model_validator(mode="after")
    def carries_its_value(self) -> Event:
        if self.do == "move" and self.level is None:
            raise ValueError('a "move" needs the level it goes to; add "level".')
        if self.do == "setpoint" and self.setpoint_c is None:
            raise ValueError('a "setpoint" needs its temperature; give it.')
        if self.do == "hob_on" and self.power_kw is None:
            raise ValueError("power_kw: lighting the hob needs the power of the burner; give it.")
        if self.do in ("add_topping", "add_cheese", "flip", "lift", "flame_down", "flame_up", "paper_out") and self.at_s < 0:
            raise ValueError(f'"{self.do}" is for a base that bakes first; give a time after launch.')
        return self


class Target(StrictModel):
    """The crust that is wanted; what is left out comes from the style."""

    base: Annotated[ColourWord | None, OLDER_BASE] = None
    rim: ColourWord | None = None
    crumb: Crumb | None = None


class Overhead(StrictModel):
    """A second deck that heats with the oven: above, as a radiating ceiling, or below. A `move` to its level puts the pizza onto it.

    Of one below, the deck that the pizza leaves hangs over it from then on.
    """

    kind: CeilingKind
    thickness_mm: Annotated[float, Field(ge=0.5, le=60)] = 10.0
    level: Annotated[int, Field(ge=1, le=8)]


class SimulateInput(StrictModel):
    """The JSON of `./mattone engine simulate`. together: how many alike are in the oven at once, on levels of their own; the result is of one."""

    hearth: Hearth
    surface: Surface | None = None
    preheat_min: Annotated[float, Field(ge=0, le=180)] = 45.0
    pan: Pan | None = None
    dough: Dough = Dough()
    toppings: Toppings = Toppings()
    other_half: Toppings | None = None
    overhead: Overhead | None = None
    parchment: bool = False
    events: Annotated[tuple[Event, ...], Field(max_length=40, strict=False)] = ()
    style: StyleKey = "home_oven_round"
    own_style: Style | None = None
    target: Target = Target()
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0
    knowledge: Knowledge = GENERAL
    together: Annotated[int, Field(ge=1, le=2)] = 1

    @property
    def deck(self) -> Surface | None:
        """The surface where it is a deck; None on an open rack."""
        return deck_of(self.surface)

    @property
    def has_deck(self) -> bool:
        """Whether the dough, or its pan, stands on a deck."""
        return self.deck is not None

    @property
    def starts_s(self) -> float:
        """When the dough first meets heat: 0, or the earliest hob."""
        return min([0.0, *(e.at_s for e in self.events if e.do == "hob_on")])

    @model_validator(mode="after")
    def rig_stands(self) -> SimulateInput:
        refuse_impossible(self)
        return self


def an(noun: str) -> str:
    """The noun with its article."""
    return f"{'an' if noun[0] in 'aeiou' else 'a'} {noun}"


def refuse_impossible(request: SimulateInput) -> None:
    """Raise ValueError, by name, for a rig that cannot exist or a control it does not have."""
    hearth = request.hearth
    kind = hearth.traits.word
    if not request.has_deck and request.pan is None:
        raise ValueError("dough needs something to stand on; give a surface or a pan.")
    if request.dough.area_cm2 > hearth.room_cm2:
        raise ValueError(
            f"a base of {request.dough.area_cm2:g} cm2 does not fit {an(kind)} with {hearth.room_cm2:g} cm2 of rack; make it smaller or give the rack's size."
        )
    if hearth.is_flame:
        regulated = [e.do for e in request.events if e.do.startswith(("top_element", "fan", "setpoint"))]
        if regulated or hearth.fan:
            what = regulated[0] if regulated else "fan"
            raise ValueError(f"{an(kind)} has no {what.replace('_', ' ')}; leave it out.")
        if request.overhead is not None:
            raise ValueError(f"{an(kind)} has no rack for a second deck; leave overhead out, or give its dome's temperature.")
    if request.overhead is not None and (request.overhead.level == hearth.level or request.overhead.level > hearth.levels):
        raise ValueError(f"the second deck is on level {request.overhead.level}; it must lie above or below level {hearth.level} and within {hearth.levels}.")
    if not hearth.is_flame and any(e.do.startswith("flame") for e in request.events):
        raise ValueError(f"{an(kind)} has no flame to turn; use its dial or its top element.")
    lifts = [e for e in request.events if e.do == "lift"]
    if lifts and (request.pan is not None or not request.has_deck or len(lifts) > 1):
        raise ValueError("a base is lifted once, from a deck onto a cool tray; leave the lift out.")
    for event in request.events:
        if event.do == "move" and event.level is not None and event.level > hearth.levels:
            raise ValueError(f"an event moves to level {event.level}, but the hearth has {hearth.levels}.")
        if event.do == "move" and request.overhead is not None and event.level is not None:
            # Onto the second deck goes what lies on a deck itself; nothing goes past it.
            second, onto = request.overhead.level, request.has_deck and request.pan is None
            past = event.level > second if second > hearth.level else event.level < second
            if past or (event.level == second and not onto):
                raise ValueError(f"an event moves to level {event.level}, but the second deck lies on level {second}.")
        if event.do == "top_element_on" and hearth.top_element_kw <= 0:
            raise ValueError("an event switches on a top element, but the hearth has none (its power is 0).")
        if event.do == "hob_on" and request.pan is None:
            carrier = request.surface.traits.word if request.surface else "base"
            raise ValueError(f"{an(carrier)} does not belong on a hob; a hob start needs a metal pan.")
    if sum(e.do == "paper_out" for e in request.events) > int(request.parchment):
        raise ValueError("paper is slid out once, where paper lies under the dough; leave that step out.")
    added = [e for e in request.events if e.do in ("add_topping", "add_cheese")]
    if len(added) > 1:
        raise ValueError("the toppings can be added once; keep one that adds toppings or one that adds cheese.")
    flips = [e.at_s for e in request.events if e.do == "flip"]
    if flips and request.pan is not None:
        raise ValueError("a base in a pan is not flipped; leave the flip out.")
    if flips and request.toppings.mass_g > 0 and not any(e.do == "add_topping" and e.at_s >= max(flips) for e in added):
        raise ValueError("a base is flipped bare; add the toppings after the flip.")
    if request.surface is not None and request.surface.bars and not hearth.is_flame:
        raise ValueError(f"{an(kind)} has no grate over a fire; choose another surface.")
