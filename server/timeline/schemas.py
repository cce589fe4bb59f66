"""Shapes of suppers over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from mattone_engine.days.asked import Absence, Clock, Fixed, LocalTime, TimelineInput, programmes
from mattone_engine.days.lists import Lists
from mattone_engine.days.placed import TimelineResult
from mattone_engine.dough.rise import PLACE_C
from mattone_engine.dough.toppings import Pick, ToppingResult
from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import OneOf
from ninja import Schema
from pydantic import Field

from plans.schemas import PlanName

ProgrammeOrOwn = Annotated[str, OneOf(lambda: (*programmes(), "own"))]


class SupperWords(StrictModel):
    """A supper in the cook's words. programme "own": the hours on the dough's curve.

    yeast "solve": dosed for these hours; "keep": the dough's own dose, the hours give way; "as_is": its dose and its hours.
    yeast_pct overrides both. Times are local to time_zone.
    """

    dough_id: int | None = None
    plan_id: int | None = None
    serve_at: LocalTime
    time_zone: Annotated[str, Field(max_length=60)] = "UTC"
    programme: ProgrammeOrOwn = "cold_1"
    pizzas: Annotated[int, Field(ge=1, le=12)] = 4
    hands: Annotated[int, Field(ge=1, le=2)] = 1
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


class SupperIn(SupperWords):
    name: PlanName


class StartSupper(StrictModel):
    """A supper to begin with, for a dough or a plan; without a time: the coming Saturday evening."""

    dough_id: int | None = None
    plan_id: int | None = None
    time_zone: Annotated[str, Field(max_length=60)] = "UTC"


class SupperNames(Schema):
    """What it is made of, as it is called."""

    dough: str | None
    plan: str | None
    style: str


class SupperPreview(Schema):
    """dough_yeast_pct: the dough's own dose, null without a dough. area_cm2: of one pizza."""

    names: SupperNames
    ask: TimelineInput
    result: TimelineResult
    toppings: ToppingResult | None
    lists: Lists
    dough_yeast_pct: float | None
    area_cm2: float


class SupperLine(Schema):
    """problem: why it cannot be used."""

    id: int
    version: int
    name: str
    serve_at: datetime
    updated_at: datetime
    problem: str = ""


class SupperOut(Schema):
    id: int
    version: int
    name: str
    words: SupperWords
    told: SupperPreview
    updated_at: datetime


class EffectAsk(StrictModel):
    """The toppings of a supper on the pizza of a saved plan."""

    plan_id: int
    picks: Annotated[tuple[Pick, ...], Field(min_length=1, max_length=16, strict=False)]


class NextOut(Schema):
    """What comes next of all saved suppers; all null when nothing does."""

    supper_id: int | None
    supper: str
    step_key: str
    step: str
    note: str
    at: str | None
    serve_at: str | None
    pizzas: int
