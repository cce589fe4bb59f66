"""Shapes of plans over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.limits import PARCHMENT_LIMIT_C
from mattone_engine.bake.plan import PlanResult
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.dough.batch import DoughInput
from mattone_engine.things.bake import ColourWord, Crumb, StyleKey
from mattone_engine.things.base import OLDER_BASE, ONE_LINE, StrictModel
from mattone_engine.things.release import ReleaseKey
from ninja import Schema
from pydantic import Field, StringConstraints

Topping = Literal["light", "normal", "generous"]
PlanName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), ONE_LINE]


class Sentence(StrictModel):
    """The plan's head in the cook's words. Without a surface and a pan: a fire's own floor or grate.

    own_style_id: one of the cook's own styles, in the stead of `style`. method: keep to this method.
    diameter_cm: of a shaped round, pan_width_cm and pan_depth_cm: inside of the pan, where they are not as the style or the kitchen has them.
    release: the agent under the base; null: as usual for the style. parchment: baking paper lies there instead.
    """

    style: StyleKey = "home_oven_round"
    own_style_id: int | None = None
    people: Annotated[int, Field(ge=1, le=24)] = 2
    hearth_id: int
    surface_id: int | None = None
    pan_id: int | None = None
    diameter_cm: Annotated[float, Field(ge=12, le=60)] | None = None
    pan_width_cm: Annotated[float, Field(ge=8, le=80)] | None = None
    pan_depth_cm: Annotated[float, Field(ge=8, le=80)] | None = None
    base: Annotated[ColourWord | None, OLDER_BASE] = None
    rim: ColourWord | None = None
    crumb: Crumb = "even"
    topping: Topping = "normal"
    parchment: bool = False
    release: ReleaseKey | None = None
    parchment_limit_c: Annotated[float, Field(ge=150, le=260)] = PARCHMENT_LIMIT_C
    method: Annotated[str, StringConstraints(max_length=40)] | None = None
    formula_free: bool = False
    deck_reading_c: Annotated[float, Field(ge=10, le=550)] | None = None
    serve_at: Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")] = "19:30"


class PlanPart(StrictModel):
    """How a pizza is baked. `controls` null lets Mattone choose."""

    sentence: Sentence
    controls: Controls | None = None


class PreviewIn(PlanPart):
    """What to plan. `plan_id` keeps a saved plan's rig. `dough`: what is baked; null is the style's usual one."""

    plan_id: int | None = None
    dough: DoughInput | None = None


class Spread(StrictModel):
    """The window as factors of the likely pull, kept while something is dragged."""

    look_from: Annotated[float, Field(gt=0, le=1)]
    window_end: Annotated[float, Field(ge=1, le=5)]


class SketchIn(PreviewIn):
    """A preview while something is dragged: no window of its own, no reasons."""

    spread: Spread


class RowAskIn(PreviewIn):
    """Several pizzas one after another by the same controls; gap_min null: as soon as the deck is back."""

    controls: Controls
    count: Annotated[int, Field(ge=1, le=12)] = 4
    gap_min: Annotated[float, Field(ge=0, le=60)] | None = None
    hands: Annotated[int, Field(ge=1, le=2)] = 1
    together: Annotated[int, Field(ge=1, le=2)] = 1


class PlanIn(PreviewIn):
    name: PlanName


class PlanNameIn(StrictModel):
    name: PlanName


class RigNames(Schema):
    """How the things were called when the plan was made."""

    hearth: str
    surface: str | None
    pan: str | None
    style: str = ""


class SaidSentence(Schema):
    """The cook's words, and the names of the things then."""

    words: Sentence
    names: RigNames


class UnderOut(Schema):
    """What the base lies on while it is topped, and the release agent under it, by their keys."""

    on: str
    release: str


class PreviewOut(Schema):
    sentence: Sentence
    names: RigNames
    under: UnderOut
    ask: PlanInput
    result: PlanResult


class PlanLine(Schema):
    """problem: why it cannot be read; the rest is then empty."""

    id: int
    version: int
    name: str
    style: str = ""
    support: str = ""
    likely_done_s: float = 0.0
    problem: str = ""
    updated_at: datetime


class PlanOut(Schema):
    """supper_id: the supper that it is a part of; null for a setup."""

    id: int
    supper_id: int | None = None
    version: int
    name: str
    sentence: dict[str, Any]
    names: RigNames
    under: UnderOut
    ask: dict[str, Any]
    result: dict[str, Any]
    engine: str
    engine_now: str
    updated_at: datetime
