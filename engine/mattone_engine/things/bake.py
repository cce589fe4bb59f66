"""One bake as it is asked of the engine."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.things.base import Thing
from mattone_engine.things.dough import Dough, Toppings
from mattone_engine.things.hearth import Hearth
from mattone_engine.things.support import Pan, Surface

ColourWord = Literal["pale", "blond", "golden", "golden-brown", "brown", "dark", "charred"]
StyleKey = Literal[
    "neapolitan",
    "home_oven_round",
    "new_york",
    "thin_crisp",
    "cast_iron_pan",
    "tall_square_pan",
    "grandma",
    "sicilian",
    "roman_tray",
    "focaccia",
    "grilled",
    "family_tray",
    "gluten_free_round",
]
Crumb = Literal["soft", "even", "crisp"]
EventKind = Literal["top_element_on", "top_element_off", "turn", "move", "shield_on", "shield_off", "fan_on", "fan_off", "setpoint"]


class Event(Thing):
    """Something the cook does, seconds after launch (negative: before it, while heating)."""

    at_s: Annotated[float, Field(ge=-7200, le=5400)]
    do: EventKind
    level: Annotated[int, Field(ge=1, le=8)] | None = None
    setpoint_c: Annotated[float, Field(ge=50, le=350)] | None = None

    @model_validator(mode="after")
    def carries_its_value(self) -> Event:
        if self.do == "move" and self.level is None:
            raise ValueError('a "move" needs the level it goes to; add "level".')
        if self.do == "setpoint" and self.setpoint_c is None:
            raise ValueError('a "setpoint" needs its temperature; add "setpoint_c".')
        return self


class Target(Thing):
    """The crust that is wanted; what is left out comes from the style."""

    bottom: ColourWord | None = None
    rim: ColourWord | None = None
    crumb: Crumb | None = None


class SimulateInput(Thing):
    """The JSON of `./mattone engine simulate`."""

    hearth: Hearth
    surface: Surface | None = None
    preheat_min: Annotated[float, Field(ge=0, le=180)] = 45.0
    pan: Pan | None = None
    dough: Dough = Dough()
    toppings: Toppings = Toppings()
    parchment: bool = False
    events: Annotated[tuple[Event, ...], Field(max_length=40, strict=False)] = ()
    style: StyleKey = "home_oven_round"
    target: Target = Target()
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0

    @property
    def has_deck(self) -> bool:
        return self.surface is not None and self.surface.kind != "none"

    @model_validator(mode="after")
    def rig_stands(self) -> SimulateInput:
        if not self.has_deck and self.pan is None:
            raise ValueError("dough needs something to stand on; give a surface or a pan.")
        if self.hearth.is_flame:
            regulated = [e.do for e in self.events if e.do.startswith(("top_element", "fan", "setpoint"))]
            if regulated or self.hearth.fan:
                what = regulated[0] if regulated else "fan"
                raise ValueError(f"a {self.hearth.kind.replace('_', ' ')} has no {what.replace('_', ' ')}; leave it out.")
        for event in self.events:
            if event.do == "move" and event.level is not None and event.level > self.hearth.levels:
                raise ValueError(f"an event moves to level {event.level}, but the hearth has {self.hearth.levels}.")
            if event.do == "top_element_on" and self.hearth.top_element_kw <= 0:
                raise ValueError("an event switches on a top element, but the hearth has none (top_element_kw is 0).")
        return self
