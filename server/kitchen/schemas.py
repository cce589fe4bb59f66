"""Shapes of the kitchen over the API; physical bounds are the engine's own."""

from __future__ import annotations

from typing import Annotated

from mattone_engine.things.base import ONE_LINE, StrictModel
from mattone_engine.things.capabilities import OwnedSurfaceKind, PanKind
from mattone_engine.things.hearth import HearthLimits
from mattone_engine.things.instruments import InstrumentKind
from mattone_engine.things.tools import Tool
from ninja import Schema
from pydantic import Field, StringConstraints

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60), ONE_LINE]
SizeCm = Annotated[float, Field(ge=10, le=120)]


class KitchenIn(StrictModel):
    name: Name
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0


class HearthIn(HearthLimits):
    """Limits of a hearth and, where it is known, what one of its racks is rated for."""

    name: Name
    rack_kg: Annotated[float, Field(ge=1, le=100)] | None = None


class SupportIn(StrictModel):
    name: Name
    width_cm: SizeCm
    depth_cm: SizeCm


class SurfaceIn(SupportIn):
    kind: OwnedSurfaceKind
    thickness_mm: Annotated[float, Field(ge=0.5, le=60)]


class PanIn(SupportIn):
    kind: PanKind
    thickness_mm: Annotated[float, Field(ge=0.3, le=12)]
    coating_limit_c: Annotated[float, Field(ge=150, le=400)] | None = None
    wall_cm: Annotated[float, Field(ge=0.5, le=12)] = 3.0
    quantity: Annotated[int, Field(ge=1, le=12)] = 1
    is_round: bool | None = None


class InstrumentIn(StrictModel):
    name: Name
    kind: InstrumentKind


class ToolIn(Tool):
    name: Name


class Kept(Schema):
    """version counts the changes; send it back with the next one."""

    id: int
    version: int


class HearthOut(HearthIn):
    id: int
    version: int
    calibrated: bool


class SurfaceOut(Kept):
    name: str
    kind: str
    thickness_mm: float
    width_cm: float
    depth_cm: float
    mass_kg: float


class PanOut(SurfaceOut):
    area_cm2: float
    coating_limit_c: float | None
    wall_cm: float
    quantity: int
    is_round: bool | None


class InstrumentOut(Kept):
    name: str
    kind: str


class ToolOut(Kept):
    name: str
    kind: str
    volume_l: float | None
    holds_g: float | None
    limit_c: float | None


class NoteOut(Schema):
    """Something to mind about a thing of the kitchen."""

    noun: str
    id: int
    text: str


class CatalogueOut(Schema):
    """Generic things to add."""

    hearths: list[HearthIn]
    surfaces: list[SurfaceIn]
    pans: list[PanIn]
    instruments: list[InstrumentIn]
    tools: list[ToolIn]


class KitchenOut(Schema):
    """notes say what does not fit or is too heavy; mass_kg is worked out from size and material."""

    name: str
    version: int
    altitude_m: float
    notes: list[NoteOut]
    hearths: list[HearthOut]
    surfaces: list[SurfaceOut]
    pans: list[PanOut]
    instruments: list[InstrumentOut]
    tools: list[ToolOut]
