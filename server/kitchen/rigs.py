"""Things of the kitchen as the engine bakes with them."""

from __future__ import annotations

from collections.abc import Iterable

from django.http import HttpRequest
from mattone_engine.things import Pan as PanThing
from mattone_engine.things import Surface as SurfaceThing

from kitchen.models import Hearth, Pan, Surface


def surface_thing(row: Surface) -> SurfaceThing:
    return SurfaceThing.model_validate({"kind": row.kind, "thickness_mm": row.thickness_mm})


def pan_thing(row: Pan) -> PanThing:
    return PanThing.model_validate({"kind": row.kind, "thickness_mm": row.thickness_mm})


def hob_kw(request: HttpRequest) -> float | None:
    """Power of the cook's strongest burner; None where there is no hob."""
    return strongest_kw(Hearth.objects.for_cook(request).filter(kind="hob"))


def strongest_kw(hearths: Iterable[Hearth]) -> float | None:
    """The strongest burner among some hearths."""
    return max((min(4.0, hob.power_kw) for hob in hearths if hob.kind == "hob"), default=None)
