"""Things of the kitchen as the engine bakes with them."""

from __future__ import annotations

from collections.abc import Iterable

from django.http import HttpRequest
from mattone_engine.bake.match import MatchRig
from mattone_engine.bake.plan_input import HearthLimits
from mattone_engine.things import Pan as PanThing
from mattone_engine.things import Surface as SurfaceThing
from mattone_engine.things.fit import fit_note
from ninja import Schema

from kitchen.models import Hearth, Pan, Surface

# Pans that a fire may stand under.
FIRE_PANS = ("cast_iron",)


class RigOut(Schema):
    """A rig of the kitchen by the ids of its things, with its names."""

    key: str
    hearth_id: int
    surface_id: int | None
    pan_id: int | None
    hearth: str
    support: str


class NotStandingOut(Schema):
    """A thing that is in no rig, and why."""

    noun: str
    id: int
    name: str
    why: str


class RigsOut(Schema):
    """Every hearth with what may stand in or on it; what stands nowhere, and why; what is missing, in words."""

    rigs: list[RigOut]
    not_standing: list[NotStandingOut]
    missing: str


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


def rigs_among(hearths: list[Hearth], surfaces: list[Surface], pans: list[Pan]) -> list[tuple[RigOut, MatchRig]]:
    """Every hearth with what may sensibly stand in or on it, and fits."""
    burner_kw = strongest_kw(hearths)
    return [
        _rig(hearth, hearth.limits, surface, pan, burner_kw)
        for hearth in hearths
        if hearth.kind != "hob"
        for surface, pan in stands_on(hearth, hearth.limits, surfaces, pans)
        if not any(thing is not None and does_not_fit(thing, hearth) for thing in (surface, pan))
    ]


def does_not_fit(thing: Surface | Pan, hearth: Hearth) -> str:
    """Why it does not go in; empty where it does."""
    note = fit_note(thing.extent, hearth.room)
    return note if note.startswith("Does not fit") else ""


def all_rigs(request: HttpRequest) -> tuple[RigsOut, list[tuple[RigOut, MatchRig]]]:
    """What bakes here, and why the rest does not; its rigs also as the engine bakes with them."""
    hearths, surfaces, pans = list(Hearth.objects.for_cook(request)), list(Surface.objects.for_cook(request)), list(Pan.objects.for_cook(request))
    found = rigs_among(hearths, surfaces, pans)
    rigs = [out for out, _ in found]
    heated = [hearth for hearth in hearths if hearth.kind != "hob"]
    used = {("surfaces", rig.surface_id) for rig in rigs} | {("pans", rig.pan_id) for rig in rigs}
    idle = [(noun, row) for noun, rows in (("surfaces", surfaces), ("pans", pans)) for row in rows if (noun, row.pk) not in used]
    not_standing = [NotStandingOut(noun=noun, id=row.pk, name=row.name, why=_why_idle(row, heated)) for noun, row in idle] if heated else []
    return RigsOut(rigs=rigs, not_standing=not_standing, missing="" if rigs else _missing(hearths, heated, surfaces, pans)), found


def _why_idle(row: Surface | Pan, heated: list[Hearth]) -> str:
    told = [text for hearth in heated if (text := does_not_fit(row, hearth))]
    return " ".join(dict.fromkeys(told)) or "It does not go over a fire: only iron without a coating does. It needs an oven."


def _missing(hearths: list[Hearth], heated: list[Hearth], surfaces: list[Surface], pans: list[Pan]) -> str:
    """In words, what a kitchen without any rig lacks."""
    if not hearths:
        return "There is no hearth yet: add the oven, grill or flame oven you bake in."
    if not heated:
        return "A hob alone does not bake a pizza: add the oven, grill or flame oven you bake in."
    if not surfaces and not pans:
        return "There is nothing to bake on yet: add a stone, a steel, a tray or a pan."
    return "Nothing of what you own goes into what you bake in; the reasons stand beside each."


def stands_on(hearth: Hearth, limits: HearthLimits, surfaces: list[Surface], pans: list[Pan]) -> list[tuple[Surface | None, Pan | None]]:
    """In an oven: each deck, each pan on a rack, walled pans on decks. Over a fire: its own floor or grate, a stone, an iron pan."""
    if hearth.kind == "flame_oven":
        return [(None, None)]
    decks = [s for s in surfaces if s.kind != "upturned_tray"]
    if limits.fire is not None:
        return [(None, None), *((s, None) for s in decks), *((None, p) for p in pans if p.kind in FIRE_PANS and p.coating_limit_c is None)]
    on_decks = [(s, p) for p in pans if p.kind not in ("thin_tray", "perforated") for s in decks]
    return [*((s, None) for s in surfaces), *((None, p) for p in pans), *on_decks]


def _rig(hearth: Hearth, limits: HearthLimits, surface: Surface | None, pan: Pan | None, burner_kw: float | None) -> tuple[RigOut, MatchRig]:
    key = f"h{hearth.pk}" + (f"s{surface.pk}" if surface else "") + (f"p{pan.pk}" if pan else "")
    own = limits.fire.own_surface if limits.fire is not None and surface is None and pan is None else None
    support = " on ".join(thing.name for thing in (pan, surface) if thing is not None) or ("its own floor" if hearth.kind == "flame_oven" else "its grate")
    out = RigOut(key=key, hearth_id=hearth.pk, surface_id=surface.pk if surface else None, pan_id=pan.pk if pan else None, hearth=hearth.name, support=support)
    rig = MatchRig(
        key=key,
        hearth=limits,
        surface=surface_thing(surface) if surface is not None else own,
        pan=pan_thing(pan) if pan is not None else None,
        pan_area_cm2=pan.area_cm2 if pan is not None else None,
        coating_limit_c=pan.coating_limit_c if pan is not None else None,
        hob_kw=burner_kw,
    )
    return out, rig
