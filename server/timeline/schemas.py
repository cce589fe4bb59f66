"""Shapes of suppers over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.lists import Lists
from mattone_engine.days.placed import TimelineResult
from mattone_engine.dough.batch import DoughInput
from mattone_engine.dough.toppings import Pick, ToppingResult
from mattone_engine.supper.evening import EveningWords
from mattone_engine.supper.headline import Headline
from mattone_engine.things.base import StrictModel
from ninja import Schema
from pydantic import Field

from dough.schemas import DoughOut, Moment
from plans.schemas import PlanName, PlanOut, PlanPart


class SupperWords(EveningWords):
    """When, how many, by which hours and by whom, in the cook's words."""


class DoughPart(StrictModel):
    """The dough of a supper. name: of the recipe that it began from. mixed_at: when this batch was mixed, with its offset; null before."""

    name: Annotated[str, Field(max_length=80)] = ""
    dough: DoughInput
    mixed_at: Moment | None = None


class SupperParts(StrictModel):
    """A supper; every part may be missing. supper_id: the saved one, whose rig its plan keeps."""

    words: SupperWords | None = None
    dough: DoughPart | None = None
    plan: PlanPart | None = None
    supper_id: int | None = None


class SupperAsk(SupperParts):
    """A supper whose days are to be laid out."""

    words: SupperWords


class SupperIn(SupperParts):
    """A supper to be saved."""

    name: PlanName


class StartSupper(StrictModel):
    """The words to begin with, for a dough or a plan: the coming Saturday evening."""

    dough: DoughInput | None = None
    plan: PlanPart | None = None
    time_zone: Annotated[str, Field(max_length=60)] = "UTC"


class SupperNames(Schema):
    """What it is made of, as it is called; plan: on what it is baked."""

    dough: str | None
    plan: str | None
    style: str


class SupperPreview(Schema):
    """dough_yeast_pct: the dough's own dose, null without a dough. may_be_together: the oven takes two trays at once. area_cm2: of one pizza."""

    names: SupperNames
    ask: TimelineInput
    result: TimelineResult
    toppings: ToppingResult | None
    lists: Lists
    dough_yeast_pct: float | None
    may_be_together: bool = False
    area_cm2: float


class SupperLine(Schema):
    """baked: whether it is said how it is baked. problem: why it cannot be used."""

    id: int
    version: int
    name: str
    serve_at: datetime | None
    baked: bool
    updated_at: datetime
    problem: str = ""


class SupperOut(Schema):
    """told: its days; null without a date. headline: the line that every view has at its head."""

    id: int
    version: int
    name: str
    words: SupperWords | None
    dough: DoughOut | None
    plan: PlanOut | None
    told: SupperPreview | None
    headline: Headline
    updated_at: datetime


class EffectAsk(StrictModel):
    """The toppings of a supper on the pizza of its plan."""

    plan: PlanPart
    dough: DoughInput | None = None
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
