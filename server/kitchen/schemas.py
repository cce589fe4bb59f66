"""Shapes of the kitchen over the API; physical bounds are the engine's own."""

from __future__ import annotations

from typing import Annotated

from mattone_engine.bake.plan_input import HearthLimits
from mattone_engine.things.base import Thing
from ninja import Schema
from pydantic import Field, StringConstraints

# PostgreSQL takes no NUL, and a name has no use for other control characters.
PRINTABLE = r"^[^\x00-\x1f\x7f]*$"
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60, pattern=PRINTABLE)]
SizeCm = Annotated[float, Field(ge=10, le=120)]


class KitchenIn(Thing):
    name: Name
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0


class HearthIn(HearthLimits):
    name: Name


class SupportIn(Thing):
    name: Name
    width_cm: SizeCm
    depth_cm: SizeCm


class SurfaceIn(SupportIn):
    kind: Annotated[str, Field(pattern="^(stone|steel)$")]
    thickness_mm: Annotated[float, Field(ge=0.5, le=60)]


class PanIn(SupportIn):
    kind: Annotated[str, Field(pattern="^thin_tray$")]
    thickness_mm: Annotated[float, Field(ge=0.3, le=12)]


class HearthOut(HearthIn):
    id: int


class SurfaceOut(Schema):
    id: int
    name: str
    kind: str
    thickness_mm: float
    width_cm: float
    depth_cm: float


class PanOut(SurfaceOut):
    pass


class KitchenOut(Schema):
    name: str
    altitude_m: float
    hearths: list[HearthOut]
    surfaces: list[SurfaceOut]
    pans: list[PanOut]
