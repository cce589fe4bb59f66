"""Shapes of bakes over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from mattone_engine.live.answer import LiveResult
from mattone_engine.things.base import StrictModel
from ninja import Schema
from pydantic import AwareDatetime, Field

from plans.schemas import RigNames

Stage = Literal["heating", "baking", "pulled", "ended"]


class StartIn(StrictModel):
    """Start from a saved plan. heat_on_at: when the heat went on, by the client's clock."""

    plan_id: int
    heat_on_at: Annotated[AwareDatetime, Field(strict=False)]


class MomentIn(StrictModel):
    """The moment that is asked about, by the client's clock."""

    at: Annotated[AwareDatetime, Field(strict=False)]


class BakeLine(Schema):
    """problem: why it cannot be read; the rest is then empty."""

    id: int
    version: int
    name: str
    stage: Stage
    hearth: str = ""
    heat_on_at: datetime
    launched_at: datetime | None
    pulled_at: datetime | None
    ended_at: datetime | None
    problem: str = ""


class HappenedOut(Schema):
    """One thing that was told of a bake; undone: it was taken back."""

    id: UUID
    kind: str
    at: datetime
    payload: dict[str, Any]
    undone: bool


class BakeOut(BakeLine):
    names: RigNames
    ask: dict[str, Any]
    engine: str
    happened: list[HappenedOut]


class AnswerOut(Schema):
    """What the engine says at a moment, and until which event (in the order they came) it knows of."""

    told: int
    live: LiveResult
