"""Shapes of suppers over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.lists import Lists
from mattone_engine.days.placed import TimelineResult
from mattone_engine.dough.toppings import Pick, ToppingResult
from mattone_engine.supper.evening import EveningWords
from mattone_engine.things.base import StrictModel
from ninja import Schema
from pydantic import Field

from plans.schemas import PlanName


class SupperWords(EveningWords):
    """A supper in the cook's words, of a saved dough and a saved plan."""

    dough_id: int | None = None
    plan_id: int | None = None


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
