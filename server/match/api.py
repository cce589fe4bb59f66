"""The board of styles and rigs of the cook's own kitchen. Nothing is computed here."""

from __future__ import annotations

from functools import lru_cache
from typing import cast

from django.http import HttpRequest
from mattone_engine.bake.match import HelpResult, MatchInput, MatchResult, MatchRig, help_most, match
from mattone_engine.bake.plan_input import HearthLimits
from mattone_engine.errors import InputError
from mattone_engine.styles import styles
from mattone_engine.things import Pan as PanThing
from mattone_engine.things import Surface as SurfaceThing
from mattone_engine.things.bake import StyleKey
from ninja import Query, Router, Schema

from kitchen.api import kitchen_of
from kitchen.models import Hearth, Pan, Surface

router = Router()

MOST_RIGS = 40


class RigOut(Schema):
    """A rig of the kitchen by the ids of its things, with its names."""

    key: str
    hearth_id: int
    surface_id: int | None
    pan_id: int | None
    hearth: str
    support: str


class BoardOut(Schema):
    """The rigs (columns), and the cells of every style on them. Rigs beyond the fortieth are left out."""

    rigs: list[RigOut]
    left_out: int
    board: MatchResult | None


@router.get("", response=BoardOut)
def board(request: HttpRequest) -> BoardOut:
    """Every style on every sensible rig of this kitchen."""
    rigs = rigs_of(request)
    shown = rigs[:MOST_RIGS]
    told = _match(_ask(request, shown).model_dump_json()) if shown else None
    return BoardOut(rigs=[out for out, _ in shown], left_out=len(rigs) - len(shown), board=told)


@router.get("/help", response=HelpResult)
def what_would_help(request: HttpRequest, style: list[str] = Query(default=[], max_length=20)) -> HelpResult:
    """What one change would do for these styles (none: all of them)."""
    unknown = [key for key in style if key not in styles()]
    if unknown:
        raise InputError("style", f"There is no style called {unknown[0][:40]}; choose from {', '.join(styles())}.")
    rigs = rigs_of(request)[:MOST_RIGS]
    if not rigs:
        raise InputError("", "There is nothing in this kitchen to bake on yet; add a hearth and a surface or a pan.")
    ask = _ask(request, rigs)
    return _help(MatchInput(rigs=ask.rigs, styles=cast("tuple[StyleKey, ...]", tuple(style)), altitude_m=ask.altitude_m).model_dump_json())


def rigs_of(request: HttpRequest) -> list[tuple[RigOut, MatchRig]]:
    """Hearths with each surface, each pan on a rack, and each pan with walls on each surface."""
    surfaces, pans = list(Surface.objects.for_cook(request)), list(Pan.objects.for_cook(request))
    found = []
    for hearth in Hearth.objects.for_cook(request):
        limits = HearthLimits.model_validate({name: getattr(hearth, name) for name in HearthLimits.model_fields})
        stands: list[tuple[Surface | None, Pan | None]] = [(s, None) for s in surfaces] + [(None, p) for p in pans]
        stands += [(s, p) for p in pans if p.kind != "thin_tray" for s in surfaces if s.kind != "upturned_tray"]
        for surface, pan in stands:
            found.append(_rig(hearth, limits, surface, pan))
    return found


def _rig(hearth: Hearth, limits: HearthLimits, surface: Surface | None, pan: Pan | None) -> tuple[RigOut, MatchRig]:
    key = f"h{hearth.pk}" + (f"s{surface.pk}" if surface else "") + (f"p{pan.pk}" if pan else "")
    support = " on ".join(thing.name for thing in (pan, surface) if thing is not None)
    out = RigOut(key=key, hearth_id=hearth.pk, surface_id=surface.pk if surface else None, pan_id=pan.pk if pan else None, hearth=hearth.name, support=support)
    rig = MatchRig(
        key=key,
        hearth=limits,
        surface=SurfaceThing.model_validate({"kind": surface.kind, "thickness_mm": surface.thickness_mm}) if surface else None,
        pan=PanThing.model_validate({"kind": pan.kind, "thickness_mm": pan.thickness_mm}) if pan else None,
        pan_area_cm2=pan.area_cm2 if pan else None,
    )
    return out, rig


def _ask(request: HttpRequest, rigs: list[tuple[RigOut, MatchRig]]) -> MatchInput:
    return MatchInput(rigs=tuple(rig for _, rig in rigs), altitude_m=kitchen_of(request).altitude_m)


# The same kitchen asks the same question again and again; its answer depends on nothing else.
@lru_cache(maxsize=64)
def _match(ask: str) -> MatchResult:
    return match(MatchInput.model_validate_json(ask))


@lru_cache(maxsize=128)
def _help(ask: str) -> HelpResult:
    return help_most(MatchInput.model_validate_json(ask))
