"""The heat source."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import Fire, HearthKind, HearthTraits, OwnedHearthKind, kinds
from mattone_engine.things.dough import LARGEST_CM2

LOWEST_SETPOINT_C = 100.0
# No thermostat goes further.
HOTTEST_DIAL_C = 350.0
# Where a usual dial ends, and how far over that its sensor lets the full top element go.
USUAL_DIAL_END_C, USUAL_STOP_OVER_K = 275.0, 25.0


class HearthLimits(StrictModel):
    """What a hearth can be set to. dial_error_k as in Hearth.

    Its sensor stops the full top element so far (top_stop_over_k) over the end of its dial. A fire has
    no dial: max_setpoint_c is then how hot its floor or grate gets.
    """

    kind: OwnedHearthKind = "electric_oven"
    max_setpoint_c: Annotated[float, Field(ge=LOWEST_SETPOINT_C, le=550)] = 250.0
    levels: Annotated[int, Field(ge=1, le=8)] = 5
    has_fan: bool = True
    fan_can_be_off: bool = True
    top_element_kw: Annotated[float, Field(ge=0, le=4)] = 2.5
    top_element_usable: bool = True
    top_stop_over_k: Annotated[float, Field(ge=0, le=80)] = 25.0
    power_kw: Annotated[float, Field(ge=0.5, le=6)] = 3.0
    dial_error_k: Annotated[float, Field(ge=-60, le=60)] = 0.0
    loss_factor: Annotated[float, Field(ge=0.4, le=2.5)] = 1.0
    deck_factor: Annotated[float, Field(ge=0.5, le=2)] = 1.0
    # Inside of its racks where they are not as usual for its kind.
    rack_width_cm: Annotated[float, Field(ge=15, le=120)] | None = None
    rack_depth_cm: Annotated[float, Field(ge=15, le=120)] | None = None

    @property
    def traits(self) -> HearthTraits:
        """What its kind is and can do."""
        return kinds().hearths[self.kind]

    @property
    def room_cm2(self) -> float:
        """How much base goes in, cm2."""
        usual = self.traits.rack_cm
        if usual is None:
            return self.traits.room_cm2
        return (self.rack_width_cm or usual[0]) * (self.rack_depth_cm or usual[1])

    @property
    def largest_cm2(self) -> float:
        """The largest base that is not refused, cm2: an assumed rack size refuses nothing."""
        assumed = self.traits.rack_cm is not None and self.rack_width_cm is None and self.rack_depth_cm is None
        return LARGEST_CM2 if assumed else self.room_cm2

    @property
    def fire(self) -> Fire | None:
        """What a hearth without a thermostat can do; None for an oven."""
        return self.traits.fire

    @property
    def bakes(self) -> bool:
        """False for a hob, which only starts pans."""
        return self.traits.heat != "burner"

    @property
    def fan_needed(self) -> bool:
        """A fan that cannot be switched off."""
        return self.has_fan and not self.fan_can_be_off

    @model_validator(mode="after")
    def no_oven_is_that_hot(self) -> HearthLimits:
        if self.fire is None and self.max_setpoint_c > HOTTEST_DIAL_C:
            raise ValueError(
                f"max_setpoint_c: no dial goes to {{{self.max_setpoint_c:g} C}}; give at most {{{HOTTEST_DIAL_C:g} C}}, or choose a flame oven or a grill."
            )
        return self


class Hearth(StrictModel):
    """A hearth with its controls as they stand at launch.

    dial_error_k is what the cavity really does minus what the dial says: an oven that runs 14 K
    cool has -14. top_stop_dial_c: where on its dial the sensor stops the full top element; None: a
    little over the end of a usual one.
    """

    kind: HearthKind = "electric_oven"
    setpoint_c: Annotated[float, Field(ge=50, le=350)] = 250.0
    fan: bool = False
    levels: Annotated[int, Field(ge=1, le=8)] = 5
    level: Annotated[int, Field(ge=1, le=8)] = 3
    dial_error_k: Annotated[float, Field(ge=-60, le=60)] = 0.0
    power_kw: Annotated[float, Field(ge=0.5, le=6)] = 3.0
    top_element_kw: Annotated[float, Field(ge=0, le=4)] = 2.5
    top_stop_dial_c: Annotated[float, Field(ge=50, le=450)] | None = None
    air_c: Annotated[float, Field(ge=50, le=400)] | None = None
    floor_c: Annotated[float, Field(ge=50, le=600)] | None = None
    dome_c: Annotated[float, Field(ge=50, le=700)] | None = None
    # Against a usual oven of its kind: what it loses through its walls, what its air gives a deck.
    loss_factor: Annotated[float, Field(ge=0.4, le=2.5)] = 1.0
    deck_factor: Annotated[float, Field(ge=0.5, le=2)] = 1.0
    # How much stronger the heat is on the hot side than on average; 0: turned as often as it needs.
    uneven: Annotated[float, Field(ge=0, le=0.6)] = 0.0
    # Its fan's moving air against a usual one.
    fan_film: Annotated[float, Field(ge=0.3, le=3)] = 1.0
    rack_cm2: Annotated[float, Field(ge=200, le=15000)] | None = None

    @property
    def room_cm2(self) -> float:
        """How much base fits, cm2."""
        return self.rack_cm2 if self.rack_cm2 is not None else self.traits.room_cm2

    @property
    def traits(self) -> HearthTraits:
        """What its kind is and can do."""
        return kinds().hearths[self.kind]

    def really_c(self, setpoint_c: float | None = None) -> float:
        """What its cavity comes to at a setting of its dial (None: as it is set), C."""
        return (self.setpoint_c if setpoint_c is None else setpoint_c) + self.dial_error_k

    @property
    def top_stop_c(self) -> float:
        """Where the sensor stops the full top element, C in the cavity."""
        usual = max(USUAL_DIAL_END_C, self.setpoint_c) + USUAL_STOP_OVER_K
        return (self.top_stop_dial_c if self.top_stop_dial_c is not None else usual) + self.dial_error_k

    @property
    def is_flame(self) -> bool:
        """True where floor, dome and air are given, not regulated by a thermostat."""
        return self.traits.fire is not None

    @model_validator(mode="after")
    def level_exists(self) -> Hearth:
        if self.level > self.levels:
            raise ValueError(f"level {self.level} is above the top level, {self.levels}; choose one from 1 to {self.levels}.")
        return self
