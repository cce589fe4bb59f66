"""What an evening is made of."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Any, Literal

from pydantic import Field

from mattone_engine.bake.plan import PlanResult
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.days.asked import Absence, Clock, Fixed, LocalTime, programmes
from mattone_engine.days.by_hand import Handling
from mattone_engine.days.of_dough import of_dough
from mattone_engine.dough.batch import DoughInput, gluten_share
from mattone_engine.dough.lines import usual_lines
from mattone_engine.dough.rise import PLACE_C
from mattone_engine.dough.toppings import Pick
from mattone_engine.styles import Style, style, style_of
from mattone_engine.supper.lots import piece_sizes
from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import OneOf
from mattone_engine.things.dough import PieceSize

ProgrammeOrOwn = Annotated[str, OneOf(lambda: (*programmes(), "own"))]


class EveningWords(StrictModel):
    """When, how many, by which hours and by whom, as the cook says it. programme "own": the hours on the dough's curve.

    yeast "solve": calculated for these hours; "keep": the dough's own, the hours give way; "as_is": the dough's own, in these hours.
    together: so many trays or pans go in at once, where the oven takes them. yeast_pct: in place of one that is calculated. Times are local to time_zone.
    """

    serve_at: LocalTime
    time_zone: Annotated[str, Field(max_length=60)] = "UTC"
    programme: ProgrammeOrOwn = "cold_1"
    pizzas: Annotated[int, Field(ge=1, le=12)] = 4
    hands: Annotated[int, Field(ge=1, le=2)] = 1
    together: Annotated[int, Field(ge=1, le=2)] = 1
    sleep_from: Clock = "23:00"
    sleep_to: Clock = "07:00"
    absences: Annotated[tuple[Absence, ...], Field(max_length=40, strict=False)] = ()
    fixed: Annotated[tuple[Fixed, ...], Field(max_length=30, strict=False)] = ()
    room_c: Annotated[float, Field(ge=5, le=40)] = PLACE_C["room"]
    fridge_c: Annotated[float, Field(ge=-2, le=20)] = PLACE_C["fridge"]
    warm_c: Annotated[float, Field(ge=20, le=38)] = PLACE_C["warm"]
    in_warmth: bool = False
    may_wake: bool = False
    cooked_sauce: bool = False
    yeast: Literal["solve", "keep", "as_is"] = "solve"
    yeast_pct: Annotated[float, Field(gt=0, le=5)] | None = None
    picks: Annotated[tuple[Pick, ...], Field(max_length=16, strict=False)] = ()
    in_heat: bool = False
    handling: Handling = Handling()

    @property
    def is_mixed(self) -> bool:
        """Whether its dough is mixed already."""
        return any(one.step == "mix" and one.done for one in self.fixed)


@dataclass(frozen=True)
class Planned:
    """How it is baked: what was asked for, and the plan that answered."""

    request: PlanInput
    result: PlanResult


@dataclass(frozen=True)
class Evening:
    """One evening. Without a dough: its style's usual one; without a plan nothing is said of the oven."""

    words: EveningWords
    dough: DoughInput | None = None
    planned: Planned | None = None
    altitude_m: float = 0.0

    @cached_property
    def dough_fields(self) -> dict[str, Any]:
        """What its dough sets of the days' question, as `of_dough` has it; without a dough the gluten of its style alone."""
        return of_dough(self.dough) if self.dough is not None else {"gluten": gluten_share(usual_lines(self.style))}

    @property
    def style(self) -> Style:
        """The style of its dough, else of its plan, else a home-oven round."""
        if self.dough is not None:
            return style_of(self.dough.formula)
        return style_of(self.planned.request) if self.planned is not None else style("home_oven_round")

    @cached_property
    def sizes(self) -> tuple[PieceSize, ...]:
        """Size of every pizza tonight; empty where all are alike, or without a plan."""
        return piece_sizes(self.dough, self.planned.request.dough) if self.planned is not None else ()

    @property
    def pizzas(self) -> int:
        """How many pizzas are baked tonight: of several lots all, else as the cook said."""
        return len(self.sizes) or self.words.pizzas

    @property
    def pizza_cm2(self) -> float:
        """The area of one pizza."""
        return self.planned.request.dough.area_cm2 if self.planned is not None else self.style.area_cm2
