"""What a plan is asked with: what the rig can do, and the crust that is wanted."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from mattone_engine.styles import styles
from mattone_engine.things import Dough, Event, Hearth, Pan, SimulateInput, Surface, Target, Toppings, deck_of
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.base import Thing
from mattone_engine.things.hearth import RegulatedKind

LOWEST_SETPOINT_C = 100.0
# A top element may lift a deck above the dial, but not by more than this.
HOTTEST_OVER_DIAL_K = 130.0


class HearthLimits(Thing):
    """What a hearth can be set to. dial_error_k as in Hearth."""

    kind: RegulatedKind = "electric_oven"
    max_setpoint_c: Annotated[float, Field(ge=LOWEST_SETPOINT_C, le=350)] = 250.0
    levels: Annotated[int, Field(ge=1, le=8)] = 5
    has_fan: bool = True
    fan_can_be_off: bool = True
    top_element_kw: Annotated[float, Field(ge=0, le=4)] = 2.5
    top_element_usable: bool = True
    power_kw: Annotated[float, Field(ge=0.5, le=6)] = 3.0
    dial_error_k: Annotated[float, Field(ge=-60, le=60)] = 0.0
    loss_factor: Annotated[float, Field(ge=0.4, le=2.5)] = 1.0
    deck_factor: Annotated[float, Field(ge=0.5, le=2)] = 1.0


class TopElement(Thing):
    """The top element glows from on_s to off_s after launch; on_s may be negative."""

    on_s: Annotated[float, Field(ge=-1200, le=3600)]
    off_s: Annotated[float, Field(ge=-1200, le=3600)]

    @model_validator(mode="after")
    def ends_after_it_begins(self) -> TopElement:
        if self.off_s <= self.on_s:
            raise ValueError("the top element must go off after it goes on; move one of the two times.")
        return self


class Controls(Thing):
    """Everything the cook sets. `top_element` null means it stays off."""

    setpoint_c: Annotated[float, Field(ge=LOWEST_SETPOINT_C, le=350)]
    level: Annotated[int, Field(ge=1, le=8)]
    preheat_min: Annotated[float, Field(ge=0, le=180)]
    fan: bool = False
    top_element: TopElement | None = None
    turn_s: Annotated[float, Field(ge=5, le=3600)] | None = None


class PlanInput(Thing):
    """The JSON of `./mattone engine plan`. With `controls` the plan is played as it stands."""

    hearth: HearthLimits = HearthLimits()
    surface: Surface | None = None
    pan: Pan | None = None
    dough: Dough = Dough()
    toppings: Toppings = Toppings()
    parchment: bool = False
    style: StyleKey = "home_oven_round"
    target: Target = Target()
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0
    people: Annotated[int, Field(ge=1, le=24)] = 2
    controls: Controls | None = None

    @property
    def has_deck(self) -> bool:
        return deck_of(self.surface) is not None

    @model_validator(mode="after")
    def controls_fit_the_hearth(self) -> PlanInput:
        if self.pan is None and not self.has_deck:
            raise ValueError("dough needs something to stand on; give a surface or a pan.")
        if styles()[self.style].shape == "pan" and self.pan is None:
            raise ValueError(f"style: a {styles()[self.style].name} is baked in a pan; give one.")
        deck_c = self.surface.deck_c if self.surface is not None else None
        if deck_c is not None and deck_c > self.hearth.max_setpoint_c + HOTTEST_OVER_DIAL_K:
            raise ValueError(f"surface.deck_c: {{{deck_c:g} C}} is hotter than this hearth can make a deck; was the thermometer set to the other unit?")
        c = self.controls
        if c is None:
            return self
        if c.level > self.hearth.levels:
            raise ValueError(f"controls.level: level {c.level} is above the top level, {self.hearth.levels}.")
        if c.setpoint_c > self.hearth.max_setpoint_c:
            raise ValueError(f"controls.setpoint_c: {c.setpoint_c:g} is more than the dial has; it ends at {self.hearth.max_setpoint_c:g}.")
        if c.top_element is not None and not (self.hearth.top_element_usable and self.hearth.top_element_kw > 0):
            raise ValueError("controls.top_element: this hearth has no top element that works with the door shut.")
        if c.fan and not self.hearth.has_fan:
            raise ValueError("controls.fan: this hearth has no fan.")
        if not c.fan and self.hearth.has_fan and not self.hearth.fan_can_be_off:
            raise ValueError("controls.fan: this hearth's fan cannot be switched off.")
        return self


def bake_of(ask: PlanInput, controls: Controls) -> SimulateInput:
    """The one bake that these controls make of the rig."""
    events: list[Event] = []
    if controls.top_element is not None:
        events.append(Event(at_s=controls.top_element.on_s, do="top_element_on"))
        events.append(Event(at_s=controls.top_element.off_s, do="top_element_off"))
    if controls.turn_s is not None:
        events.append(Event(at_s=controls.turn_s, do="turn"))
    return SimulateInput(
        hearth=Hearth(
            kind=ask.hearth.kind,
            setpoint_c=controls.setpoint_c,
            fan=controls.fan,
            levels=ask.hearth.levels,
            level=controls.level,
            dial_error_k=ask.hearth.dial_error_k,
            power_kw=ask.hearth.power_kw,
            top_element_kw=ask.hearth.top_element_kw,
            loss_factor=ask.hearth.loss_factor,
            deck_factor=ask.hearth.deck_factor,
        ),
        surface=ask.surface,
        preheat_min=controls.preheat_min,
        pan=ask.pan,
        dough=ask.dough,
        toppings=ask.toppings,
        parchment=ask.parchment,
        events=tuple(sorted(events, key=lambda event: event.at_s)),
        style=ask.style,
        target=ask.target,
        altitude_m=ask.altitude_m,
    )
