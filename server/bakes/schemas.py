"""Shapes of bakes over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from mattone_engine.bake.controls import Controls
from mattone_engine.dough.batch import DoughInput
from mattone_engine.dough.thickness import Thickness
from mattone_engine.live.answer import LiveResult
from mattone_engine.supper.evening import EveningWords
from mattone_engine.supper.headline import Headline
from mattone_engine.things.base import StrictModel
from mattone_engine.things.moments import Moment
from ninja import Schema
from pydantic import Field

from bakes.courses import MOST_PIZZAS
from plans.schemas import RigNames, Sentence

Stage = Literal["heating", "baking", "pulled", "ended"]


class StartIn(StrictModel):
    """Start from a saved plan, from a supper's plan with all its pizzas, or from a sentence with nothing planned before.

    controls, thickness: of a sentence; without controls they are searched. pizzas: one after another; left out, as many as the
    supper has or the plan's people need, of a sentence one. together: so many trays in at once; left out, as the supper has it.
    heat_on_at: when the heat went on, by the client's clock.
    """

    plan_id: int | None = None
    supper_id: int | None = None
    sentence: Sentence | None = None
    controls: Controls | None = None
    thickness: Thickness = "usual"
    pizzas: Annotated[int, Field(ge=1, le=MOST_PIZZAS)] | None = None
    together: Annotated[int, Field(ge=1, le=2)] | None = None
    heat_on_at: Moment


class FrozenSupper(StrictModel):
    """A supper as it was when its heat went on."""

    name: str
    headline: Headline
    words: EveningWords | None
    dough: DoughInput | None


class MomentIn(StrictModel):
    """The moment that is asked about, by the client's clock."""

    at: Moment


class BakeLine(Schema):
    """pizza: which of the pizzas is at hand, with its launch and pull. problem: why it cannot be read; the rest is then empty."""

    id: int
    version: int
    name: str
    stage: Stage
    hearth: str = ""
    pizzas: int = 1
    pizza: int = 1
    together: int = 1
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
    headline: Headline | None
    happened: list[HappenedOut]


class AnswerOut(Schema):
    """What the engine says at a moment, and until which event (in the order they came) it knows of."""

    told: int
    live: LiveResult
