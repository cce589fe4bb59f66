"""The heat source."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.things.base import Thing

HearthKind = Literal["electric_oven", "gas_oven", "countertop_oven", "flame_oven", "gas_grill", "charcoal_grill"]
# What a kitchen may own: a hob only ever helps another hearth.
OwnedKind = Literal["electric_oven", "gas_oven", "countertop_oven", "flame_oven", "gas_grill", "charcoal_grill", "hob"]
# Rack or floor that food can cover, cm2, where none is given.
ROOM_CM2 = {"electric_oven": 1600.0, "gas_oven": 1600.0, "countertop_oven": 1100.0, "flame_oven": 2000.0, "gas_grill": 2600.0, "charcoal_grill": 2600.0}
OPEN_FLAME: frozenset[str] = frozenset({"flame_oven", "gas_grill", "charcoal_grill"})


class Hearth(Thing):
    """A hearth with its controls as they stand at launch.

    dial_error_k is what the cavity really does minus what the dial says: an oven that runs 14 K
    cool has -14.
    """

    kind: HearthKind = "electric_oven"
    setpoint_c: Annotated[float, Field(ge=50, le=350)] = 250.0
    fan: bool = False
    levels: Annotated[int, Field(ge=1, le=8)] = 5
    level: Annotated[int, Field(ge=1, le=8)] = 3
    dial_error_k: Annotated[float, Field(ge=-60, le=60)] = 0.0
    power_kw: Annotated[float, Field(ge=0.5, le=6)] = 3.0
    top_element_kw: Annotated[float, Field(ge=0, le=4)] = 2.5
    air_c: Annotated[float, Field(ge=50, le=400)] | None = None
    floor_c: Annotated[float, Field(ge=50, le=600)] | None = None
    dome_c: Annotated[float, Field(ge=50, le=700)] | None = None
    # Against a usual oven of its kind: what it loses through its walls, what its air gives a deck.
    loss_factor: Annotated[float, Field(ge=0.4, le=2.5)] = 1.0
    deck_factor: Annotated[float, Field(ge=0.5, le=2)] = 1.0
    # How much stronger the heat is on the hot side than on average; 0: turned as often as it needs.
    uneven: Annotated[float, Field(ge=0, le=0.6)] = 0.0
    rack_cm2: Annotated[float, Field(ge=200, le=6000)] | None = None

    @property
    def room_cm2(self) -> float:
        """How much base fits, cm2."""
        return self.rack_cm2 if self.rack_cm2 is not None else ROOM_CM2[self.kind]

    @property
    def is_flame(self) -> bool:
        """True where floor, dome and air are given, not regulated by a thermostat."""
        return self.kind in OPEN_FLAME

    @model_validator(mode="after")
    def level_exists(self) -> Hearth:
        if self.level > self.levels:
            raise ValueError(f"level {self.level} is above the top level, {self.levels}; choose one from 1 to {self.levels}.")
        return self
