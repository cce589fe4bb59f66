"""What a plan is asked with: what the rig can do, and the crust that is wanted."""

from __future__ import annotations

from typing import Annotated, Literal, cast

from pydantic import Field, model_validator

from mattone_engine.bake.fire import short_by_k
from mattone_engine.heat.environment import Fire, fires
from mattone_engine.styles import style_of
from mattone_engine.things import Dough, Event, Hearth, Overhead, Pan, SimulateInput, Style, Surface, Target, Toppings, deck_of
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.base import Thing
from mattone_engine.things.hearth import OPEN_FLAME, HearthKind, OwnedKind
from mattone_engine.things.instruments import InstrumentKind

LOWEST_SETPOINT_C = 100.0
# A top element may lift a deck above the dial, but not by more than this.
HOTTEST_OVER_DIAL_K = 130.0
# Baking paper has a printed limit; this is the highest usually printed.
PARCHMENT_LIMIT_C = 230.0
# How cold the cheese comes, C: its share of the toppings decides what that does.
CHEESE_C = {"room": 18.0, "fridge": 6.0, "frozen": -14.0}
# Metal that may stand on a burner with nothing but dough in it.
HOB_PANS = ("cast_iron", "blue_steel", "dark_aluminium")

Cheese = Literal["room", "fridge", "frozen"]
AfterLaunch = Annotated[float, Field(ge=5, le=3600)]


class HearthLimits(Thing):
    """What a hearth can be set to. dial_error_k as in Hearth.

    A fire has no dial: max_setpoint_c is then how hot its floor or grate gets.
    """

    kind: OwnedKind = "electric_oven"
    max_setpoint_c: Annotated[float, Field(ge=LOWEST_SETPOINT_C, le=550)] = 250.0
    levels: Annotated[int, Field(ge=1, le=8)] = 5
    has_fan: bool = True
    fan_can_be_off: bool = True
    top_element_kw: Annotated[float, Field(ge=0, le=4)] = 2.5
    top_element_usable: bool = True
    power_kw: Annotated[float, Field(ge=0.5, le=6)] = 3.0
    dial_error_k: Annotated[float, Field(ge=-60, le=60)] = 0.0
    loss_factor: Annotated[float, Field(ge=0.4, le=2.5)] = 1.0
    deck_factor: Annotated[float, Field(ge=0.5, le=2)] = 1.0

    @property
    def fire(self) -> Fire | None:
        """What a hearth without a thermostat can do; None for an oven."""
        return fires().get(self.kind)

    @model_validator(mode="after")
    def no_oven_is_that_hot(self) -> HearthLimits:
        if self.kind not in OPEN_FLAME and self.max_setpoint_c > 350.0:
            raise ValueError(f"max_setpoint_c: no dial goes to {{{self.max_setpoint_c:g} C}}; give at most {{350 C}}, or choose a flame oven or a grill.")
        return self


class Span(Thing):
    """From on_s to off_s after launch; on_s may be negative."""

    on_s: Annotated[float, Field(ge=-1200, le=3600)]
    off_s: Annotated[float, Field(ge=-1200, le=3600)]

    @model_validator(mode="after")
    def ends_after_it_begins(self) -> Span:
        if self.off_s <= self.on_s:
            raise ValueError("it must go off after it goes on; move one of the two times.")
        return self


class Move(Thing):
    """To another level at a moment of the bake."""

    at_s: AfterLaunch
    level: Annotated[int, Field(ge=1, le=8)]


class DoughChange(Thing):
    """What is changed of the dough, in points of flour; thickness as a factor."""

    hydration_pct: Annotated[float, Field(ge=-20, le=20)] = 0.0
    oil_pct: Annotated[float, Field(ge=-10, le=10)] = 0.0
    sugar_pct: Annotated[float, Field(ge=-5, le=5)] = 0.0
    paste_pct: Annotated[float, Field(ge=0, le=20)] = 0.0
    thickness: Annotated[float, Field(ge=0.6, le=1.6)] = 1.0

    def made(self, dough: Dough) -> Dough:
        """The dough with the change, inside what a dough can be."""
        return dough.model_copy(
            update={
                "hydration_pct": min(110.0, max(40.0, dough.hydration_pct + self.hydration_pct)),
                "oil_pct": min(20.0, max(0.0, dough.oil_pct + self.oil_pct)),
                "sugar_pct": min(15.0, max(0.0, dough.sugar_pct + self.sugar_pct)),
                "paste_pct": min(30.0, dough.paste_pct + self.paste_pct),
                "mass_g": dough.mass_g * self.thickness,
            }
        )


class Controls(Thing):
    """Everything the cook sets. Null means it is left alone.

    Over a fire, setpoint_c is the floor or grate wanted at launch and dome_over_k how far dome or
    hood stands over it. shield: an empty sheet above from on_s to off_s. hob_s: seconds on a burner
    before the oven. par_bake_s: the base bakes bare until then; cheese_s: with its sauce only;
    flip_s: turned over and topped then. overhead: a second deck on a level above. dough: what is
    changed of the dough.
    """

    setpoint_c: Annotated[float, Field(ge=LOWEST_SETPOINT_C, le=550)]
    level: Annotated[int, Field(ge=1, le=8)]
    preheat_min: Annotated[float, Field(ge=0, le=180)]
    fan: bool = False
    top_element: Span | None = None
    turn_s: AfterLaunch | None = None
    dome_over_k: Annotated[float, Field(ge=-120, le=150)] | None = None
    shield: Span | None = None
    move: Move | None = None
    hob_s: Annotated[float, Field(ge=10, le=480)] | None = None
    par_bake_s: AfterLaunch | None = None
    cheese_s: AfterLaunch | None = None
    flip_s: AfterLaunch | None = None
    cheese: Cheese = "room"
    overhead: Overhead | None = None
    dough: DoughChange | None = None


class PlanInput(Thing):
    """The JSON of `./mattone engine plan`. With `controls` the plan is played as it stands.

    spares: decks of the kitchen that may hang above as a second one. hob_kw: a burner to begin on.
    methods: keep to these schools (none: all). formula_free: the dough may be changed, too.
    coating_limit_c: what the pan's coating stands. calibrated: the hearth's figures were measured.
    instruments: what the cook can measure with.
    """

    hearth: HearthLimits = HearthLimits()
    surface: Surface | None = None
    pan: Pan | None = None
    dough: Dough = Dough()
    toppings: Toppings = Toppings()
    parchment: bool = False
    style: StyleKey = "home_oven_round"
    own_style: Style | None = None
    target: Target = Target()
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0
    people: Annotated[int, Field(ge=1, le=24)] = 2
    spares: Annotated[tuple[Surface, ...], Field(max_length=6, strict=False)] = ()
    hob_kw: Annotated[float, Field(ge=0.2, le=4)] | None = None
    methods: Annotated[tuple[Annotated[str, Field(max_length=40)], ...], Field(max_length=20, strict=False)] = ()
    formula_free: bool = False
    coating_limit_c: Annotated[float, Field(ge=100, le=400)] | None = None
    calibrated: bool = False
    instruments: Annotated[tuple[InstrumentKind, ...], Field(max_length=20, strict=False)] = ("infrared",)
    controls: Controls | None = None

    @property
    def has_deck(self) -> bool:
        return deck_of(self.surface) is not None

    @property
    def fire(self) -> Fire | None:
        return self.hearth.fire

    @property
    def on_grate(self) -> bool:
        """Straight on the bars: to be flipped."""
        return self.surface is not None and self.surface.kind == "grate" and self.pan is None

    @property
    def hottest_c(self) -> float:
        """How far the hearth may be set: its dial, the pan's coating, the paper."""
        bounds = [self.hearth.max_setpoint_c]
        if self.coating_limit_c is not None and self.pan is not None:
            bounds.append(self.coating_limit_c)
        if self.parchment:
            bounds.append(PARCHMENT_LIMIT_C)
        return min(bounds)

    @property
    def may_glow(self) -> bool:
        """A top element that may be used: never over paper or a coating."""
        limits = self.hearth
        return self.fire is None and limits.top_element_usable and limits.top_element_kw > 0 and not self.parchment and self.coating_limit_c is None

    @property
    def may_hob(self) -> bool:
        """A hob start: a burner, a bare metal pan with walls, the dough proofed in it."""
        pan = self.pan
        return self.hob_kw is not None and self.fire is None and pan is not None and pan.kind in HOB_PANS and self.coating_limit_c is None

    @model_validator(mode="after")
    def rig_stands(self) -> PlanInput:
        if self.hearth.kind == "hob":
            raise ValueError("hearth.kind: a hob does not bake by itself; choose an oven or a grill, and start the pan on the hob.")
        if self.pan is None and not self.has_deck:
            raise ValueError("dough needs something to stand on; give a surface or a pan.")
        known = style_of(self)
        if known.shape == "pan" and self.pan is None:
            raise ValueError(f"style: a {known.name} is baked in a pan; give one.")
        if self.surface is not None and self.surface.kind == "grate" and self.fire is None:
            raise ValueError("surface.kind: an oven has no grate over a fire; choose another surface.")
        deck_c = self.surface.deck_c if self.surface is not None else None
        if deck_c is not None and deck_c > self.hearth.max_setpoint_c + HOTTEST_OVER_DIAL_K:
            raise ValueError(f"surface.deck_c: {{{deck_c:g} C}} is hotter than this hearth can make a deck; was the thermometer set to the other unit?")
        if self.hearth.max_setpoint_c < self.least_c:
            fire = self.hearth.kind.replace("_", " ")
            raise ValueError(f"hearth.max_setpoint_c: a {fire} that bakes gets to {{{self.least_c:g} C}} at least; how hot does its floor or grate get?")
        if self.hottest_c < self.least_c:
            what = "its coating stands" if self.coating_limit_c is not None and self.coating_limit_c <= self.hottest_c else "baking paper stands"
            raise ValueError(
                f"pan: {what} {{{self.hottest_c:g} C}}, and this hearth bakes at {{{self.least_c:g} C}} or more; use a bare pan, or leave the paper out."
            )
        if self.controls is not None:
            _check_controls(self, self.controls)
        return self

    @property
    def least_c(self) -> float:
        return self.fire.lowest_c if self.fire is not None else LOWEST_SETPOINT_C


def _check_controls(ask: PlanInput, c: Controls) -> None:
    """Raise ValueError, by the control's path, for what this rig does not have or cautions forbid."""
    hearth, fire = ask.hearth, ask.fire
    if c.level > hearth.levels:
        raise ValueError(f"controls.level: level {c.level} is above the top level, {hearth.levels}.")
    if c.setpoint_c > hearth.max_setpoint_c:
        end = "the dial has; it ends" if fire is None else "this fire gives; it ends"
        raise ValueError(f"controls.setpoint_c: {c.setpoint_c:g} is more than {end} at {hearth.max_setpoint_c:g}.")
    if c.setpoint_c > ask.hottest_c:
        why = "the paper's printed limit" if ask.parchment and ask.hottest_c == PARCHMENT_LIMIT_C else "the pan's coating"
        raise ValueError(f"controls.setpoint_c: {{{c.setpoint_c:g} C}} is more than {why} stands, {{{ask.hottest_c:g} C}}; set it lower.")
    if fire is not None:
        for name in ("fan", "top_element", "shield", "move", "hob_s", "overhead"):
            if getattr(c, name):
                raise ValueError(f"controls.{name}: a {hearth.kind.replace('_', ' ')} has no {name.removesuffix('_s').replace('_', ' ')}; leave it out.")
        if c.dome_over_k is not None and not fire.dome_low_k - 1e-6 <= c.dome_over_k <= fire.dome_high_k + 1e-6:
            raise ValueError(
                f"controls.dome_over_k: its top stands between {{{fire.dome_low_k:g} K}} and {{{fire.dome_high_k:g} K}} over the floor; choose between."
            )
    elif c.dome_over_k is not None:
        raise ValueError("controls.dome_over_k: an oven with a dial has no flame to set; leave it out.")
    if c.top_element is not None and not (hearth.top_element_usable and hearth.top_element_kw > 0):
        raise ValueError("controls.top_element: this hearth has no top element that works with the door shut.")
    if c.top_element is not None and not ask.may_glow:
        what = "baking paper" if ask.parchment else "a coated pan"
        raise ValueError(f"controls.top_element: never over {what}; leave one of the two out.")
    if c.fan and not hearth.has_fan:
        raise ValueError("controls.fan: this hearth has no fan.")
    if fire is None and not c.fan and hearth.has_fan and not hearth.fan_can_be_off:
        raise ValueError("controls.fan: this hearth's fan cannot be switched off.")
    if c.move is not None and c.move.level > hearth.levels:
        raise ValueError(f"controls.move: level {c.move.level} is above the top level, {hearth.levels}.")
    if c.hob_s is not None and not ask.may_hob:
        raise ValueError("controls.hob_s: a hob start needs a hob and a bare metal pan of iron, steel or dark aluminium.")
    if c.overhead is not None and not c.level < c.overhead.level <= hearth.levels:
        raise ValueError(f"controls.overhead: the second deck lies above level {c.level} and within {hearth.levels}; choose a level between.")
    if c.overhead is not None and c.move is not None and c.move.level >= c.overhead.level:
        raise ValueError("controls.move: the second deck is in the way; move to a level below it.")
    if c.overhead is not None and not any((s.kind, s.thickness_mm) == (c.overhead.kind, c.overhead.thickness_mm) for s in ask.spares):
        raise ValueError("controls.overhead: there is no such second deck in this kitchen.")
    if sum(at is not None for at in (c.par_bake_s, c.cheese_s, c.flip_s)) > 1:
        raise ValueError("controls.par_bake_s: the base is topped once; keep one of par-bake, late cheese and flip.")
    if c.flip_s is not None and not ask.on_grate:
        raise ValueError("controls.flip_s: only a base on a bare grate is flipped.")


def hearth_of(ask: PlanInput, controls: Controls) -> Hearth:
    """The hearth as these controls set it."""
    limits, fire = ask.hearth, ask.fire
    kind = cast(HearthKind, limits.kind)
    if fire is not None:
        over = controls.dome_over_k if controls.dome_over_k is not None else fire.dome_usual_k
        # What lies over a weak top loses heat upwards: the fire under it is hotter than its face.
        face_c = controls.setpoint_c
        floor_c = face_c + max(0.0, -over) / 3.0
        air_c = None if fire.air_share == 0.5 else min(400.0, face_c + fire.air_share * over)
        return Hearth(kind=kind, levels=1, level=1, floor_c=floor_c, dome_c=face_c + over, air_c=air_c)
    return Hearth(
        kind=kind,
        setpoint_c=controls.setpoint_c,
        fan=controls.fan,
        levels=limits.levels,
        level=controls.level,
        dial_error_k=limits.dial_error_k,
        power_kw=limits.power_kw,
        top_element_kw=limits.top_element_kw,
        loss_factor=limits.loss_factor,
        deck_factor=limits.deck_factor,
    )


def bake_of(ask: PlanInput, controls: Controls) -> SimulateInput:
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
    if c.hob_s is not None and ask.hob_kw is not None:
        events.append(Event(at_s=-c.hob_s, do="hob_on", power_kw=ask.hob_kw))
    if c.flip_s is not None:
        events.append(Event(at_s=c.flip_s, do="flip"))
    topped_s = c.par_bake_s if c.par_bake_s is not None else c.flip_s
    if topped_s is not None:
        events.append(Event(at_s=topped_s, do="add_topping", seconds=25.0))
    if c.cheese_s is not None:
        events.append(Event(at_s=c.cheese_s, do="add_cheese", seconds=20.0))
    hearth, surface = hearth_of(ask, c), ask.surface
    if ask.fire is not None and surface is not None and surface.deck_c is None:
        surface = surface.model_copy(update={"deck_c": max(40.0, c.setpoint_c - short_by_k(hearth, surface, c.preheat_min))})
    return SimulateInput(
        hearth=hearth,
        surface=surface,
        preheat_min=c.preheat_min,
        pan=ask.pan,
        dough=ask.dough if c.dough is None else c.dough.made(ask.dough),
        toppings=ask.toppings if c.cheese == "room" else colder(ask.toppings, CHEESE_C[c.cheese]),
        overhead=c.overhead,
        parchment=ask.parchment,
        events=tuple(sorted(events, key=lambda event: event.at_s)),
        style=ask.style,
        own_style=ask.own_style,
        target=ask.target,
        altitude_m=ask.altitude_m,
    )


def colder(toppings: Toppings, cheese_c: float) -> Toppings:
    """The toppings with half of their mass, the cheese, at cheese_c."""
    return toppings.model_copy(update={"temp_c": max(-20.0, 0.5 * (toppings.temp_c + cheese_c))})
