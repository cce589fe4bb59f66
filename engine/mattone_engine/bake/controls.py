"""What the cook sets: every control of a bake, and whether a rig has it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.things import Dough, Overhead
from mattone_engine.things.base import StrictModel
from mattone_engine.things.hearth import LOWEST_SETPOINT_C

Cheese = Literal["room", "fridge", "frozen"]
AfterLaunch = Annotated[float, Field(ge=5, le=3600)]


class Span(StrictModel):
    """From on_s to off_s after launch; on_s may be negative."""

    on_s: Annotated[float, Field(ge=-1200, le=3600)]
    off_s: Annotated[float, Field(ge=-1200, le=3600)]

    @model_validator(mode="after")
    def ends_after_it_begins(self) -> Span:
        if self.off_s <= self.on_s:
            raise ValueError("it must go off after it goes on; move one of the two times.")
        return self


class Move(StrictModel):
    """To another level at a moment of the bake."""

    at_s: AfterLaunch
    level: Annotated[int, Field(ge=1, le=8)]


class DoughChange(StrictModel):
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


class Controls(StrictModel):
    """Everything the cook sets. Null means it is left alone.

    Over a fire, setpoint_c is the floor or grate wanted at launch and dome_over_k how far dome or
    hood stands over it. shield: an empty sheet above from on_s to off_s. hob_s: seconds on a burner
    before the oven. par_bake_s: the base bakes bare until then; cheese_s: with its sauce only;
    flip_s: turned over and topped then. paper_out_s: its baking
    paper is slid out from under it. hot_pan: the tray heats empty with the oven. overhead: a second deck on a level above, or below
    for the move to go down onto. dough: what is changed of the dough.
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
    paper_out_s: AfterLaunch | None = None
    hot_pan: bool = False
    cheese: Cheese = "room"
    overhead: Overhead | None = None
    dough: DoughChange | None = None


def goes_down(c: Controls) -> bool:
    """Whether the second deck lies below, for the pizza to go down onto."""
    return c.overhead is not None and c.overhead.level < c.level
