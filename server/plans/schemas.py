"""Shapes of plans over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from mattone_engine.bake.plan import PlanResult
from mattone_engine.bake.plan_input import Controls, PlanInput
from mattone_engine.things.bake import ColourWord, Crumb, StyleKey
from mattone_engine.things.base import Thing
from ninja import Schema
from pydantic import Field, StringConstraints

from kitchen.schemas import PRINTABLE

Topping = Literal["light", "normal", "generous"]
PlanName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80, pattern=PRINTABLE)]


class Sentence(Thing):
    """The plan's head in the cook's words. Give a surface or a pan."""

    style: StyleKey = "home_oven_round"
    people: Annotated[int, Field(ge=1, le=24)] = 2
    hearth_id: int
    surface_id: int | None = None
    pan_id: int | None = None
    bottom: ColourWord | None = None
    rim: ColourWord | None = None
    crumb: Crumb = "even"
    topping: Topping = "normal"
    parchment: bool = False
    deck_reading_c: Annotated[float, Field(ge=10, le=550)] | None = None
    serve_at: Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")] = "19:30"


class PreviewIn(Thing):
    """What to plan. `controls` null lets Mattone choose; `plan_id` keeps a saved plan's rig."""

    sentence: Sentence
    controls: Controls | None = None
    plan_id: int | None = None


class Spread(Thing):
    """The window as factors of the likely pull, kept while something is dragged."""

    look_from: Annotated[float, Field(gt=0, le=1)]
    not_later: Annotated[float, Field(ge=1, le=5)]


class SketchIn(PreviewIn):
    """A preview while something is dragged: no window of its own, no reasons."""

    spread: Spread


class PlanIn(PreviewIn):
    name: PlanName


class PlanNameIn(Thing):
    name: PlanName


class RigNames(Schema):
    """How the things were called when the plan was made."""

    hearth: str
    surface: str | None
    pan: str | None


class PreviewOut(Schema):
    sentence: Sentence
    names: RigNames
    ask: PlanInput
    result: PlanResult


class PlanLine(Schema):
    id: int
    name: str
    style: str
    support: str
    likely_done_s: float
    updated_at: datetime


class PlanOut(Schema):
    id: int
    name: str
    sentence: dict[str, Any]
    names: RigNames
    ask: dict[str, Any]
    result: dict[str, Any]
    engine: str
    engine_now: str
    updated_at: datetime
