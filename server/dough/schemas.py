"""Shapes of doughs over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from mattone_engine.days.asked import ProgrammeKey
from mattone_engine.dough.batch import DoughInput
from mattone_engine.dough.ingredients import Fill
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.base import StrictModel
from ninja import Schema
from pydantic import Field, StringConstraints

from plans.schemas import PlanName, PreviewIn

Moment = Annotated[str, StringConstraints(max_length=40)]


class StartAsk(StrictModel):
    """A dough for a plan, or for a style and so many people."""

    plan: PreviewIn | None = None
    style: StyleKey = "home_oven_round"
    own_style_id: int | None = None
    people: Annotated[int, Field(ge=1, le=24)] = 2
    programme: ProgrammeKey = "cold_1"


class DoughIn(StrictModel):
    """mixed_at: when this batch was mixed, with its offset; null before."""

    name: PlanName
    dough: DoughInput
    mixed_at: Moment | None = None


class DoughLine(Schema):
    """problem: why it cannot be read; the rest is then empty."""

    id: int
    version: int
    name: str
    style: str = ""
    pieces: int = 0
    dough_g: float = 0.0
    problem: str = ""
    mixed_at: datetime | None
    updated_at: datetime


class DoughOut(Schema):
    """supper_id: the supper that it is a part of; null for a recipe."""

    id: int
    supper_id: int | None = None
    version: int
    name: str
    dough: DoughInput
    mixed_at: datetime | None
    # When its supper has it mixed.
    planned_at: datetime | None
    updated_at: datetime


class OvenAsk(StrictModel):
    """What the oven of a plan wants of this dough."""

    plan: PreviewIn
    dough: DoughInput


class ConvertAsk(StrictModel):
    """So much of an ingredient in any unit."""

    ingredient: Annotated[str, Field(max_length=40)]
    amount: Annotated[float, Field(ge=0, le=30000)]
    unit: Annotated[str, Field(max_length=20)]
    fill: Fill = "spooned"


class Amount(Schema):
    unit: str
    amount: float


class ConvertOut(Schema):
    """amounts: the same in other units. yeasts: grams of each yeast that raise alike; empty for what is none."""

    grams: float
    household: str
    amounts: list[Amount]
    yeasts: list[Amount]


class WriteAsk(StrictModel):
    """A dough to be written for other programs."""

    name: PlanName
    dough: DoughInput
    form: Literal["recipe", "csv", "text"]


class WrittenOut(Schema):
    filename: str
    text: str
