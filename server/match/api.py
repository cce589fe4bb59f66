"""The board of styles and rigs of the cook's own kitchen. Nothing is computed here."""

from __future__ import annotations

from django.db import connection
from django.http import HttpRequest, HttpResponse
from mattone_engine.bake.match import HelpResult, MatchInput, MatchResult, MatchRig, help_most, match
from mattone_engine.bake.plan_input import HearthLimits
from mattone_engine.errors import InputError
from mattone_engine.styles import styles
from mattone_engine.things.fit import fit_note
from ninja import Query, Router, Schema

from accounts.ownership import cook_id
from kitchen.api import kitchen_of
from kitchen.models import Hearth, Kitchen, Pan, Surface
from kitchen.rigs import pan_thing, strongest_kw, surface_thing
from match.models import kept_answer
from styling.models import OwnStyle

router = Router()

MOST_RIGS = 40
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


class BoardOut(Schema):
    """The rigs (columns), and the cells of every style on them. Rigs beyond the fortieth are left out."""

    rigs: list[RigOut]
    left_out: int
    board: MatchResult | None


@router.get("", response=BoardOut)
def board(request: HttpRequest) -> HttpResponse:
    """Every style on every sensible rig of this kitchen. Kept answers are sent as they are."""
    whole = kept_answer("board", kitchen_stamp(cook_id(request)), lambda: _board(request))
    return HttpResponse(whole, content_type="application/json")


def kitchen_stamp(owner_id: int) -> str:
    """Changes whenever anything does that the board depends on: one question to the database."""
    tables = [model._meta.db_table for model in (Hearth, Surface, Pan, OwnStyle)]
    each = "SELECT count(*), coalesce(sum(id), 0), coalesce(sum(version), 0), max(updated_at)::text FROM {} WHERE owner_id = %s AND deleted_at IS NULL"
    place = f"SELECT 0, 0, 0, max(altitude_m)::text FROM {Kitchen._meta.db_table} WHERE owner_id = %s"
    with connection.cursor() as cursor:
        cursor.execute(" UNION ALL ".join([*(each.format(table) for table in tables), place]), [owner_id] * (len(tables) + 1))
        return f"{owner_id} {cursor.fetchall()}"


def _board(request: HttpRequest) -> str:
    rigs = rigs_of(request)
    shown = rigs[:MOST_RIGS]
    told = "null"
    if shown:
        ask = _ask(request, shown)
        told = kept_answer("match", ask.model_dump_json(), lambda: match(ask).model_dump_json())
    head = BoardOut(rigs=[out for out, _ in shown], left_out=len(rigs) - len(shown), board=None).model_dump_json(exclude={"board"})
    return f'{head[:-1]},"board":{told}}}'


@router.get("/help", response=HelpResult)
def what_would_help(request: HttpRequest, style: list[str] = Query(default=[], max_length=20)) -> HttpResponse:  # type: ignore[type-arg]
    """What one change would do for these styles (none: all of them)."""
    rigs = rigs_of(request)[:MOST_RIGS]
    if not rigs:
        raise InputError("", "There is nothing in this kitchen to bake on yet; add a hearth and a surface or a pan.")
    ask = _ask(request, rigs)
    known = {*styles(), *(own.key for own in ask.own_styles)}
    unknown = [key for key in style if key not in known]
    if unknown:
        raise InputError("style", f"There is no style called {unknown[0][:40]}; choose from {', '.join(styles())}.")
    about = ask.model_copy(update={"styles": tuple(style)})
    told = kept_answer("help_most", about.model_dump_json(), lambda: help_most(about).model_dump_json())
    return HttpResponse(told, content_type="application/json")


def rigs_of(request: HttpRequest) -> list[tuple[RigOut, MatchRig]]:
    """Every hearth with what may sensibly stand in or on it, and fits."""
    surfaces, pans = list(Surface.objects.for_cook(request)), list(Pan.objects.for_cook(request))
    hearths = list(Hearth.objects.for_cook(request))
    burner_kw = strongest_kw(hearths)
    found = []
    for hearth in hearths:
        if hearth.kind == "hob":
            continue
        limits = hearth.limits
        for surface, pan in stands_on(hearth, limits, surfaces, pans):
            if not any(thing is not None and fit_note(thing.extent, hearth.room).startswith("Does not fit") for thing in (surface, pan)):
                found.append(_rig(hearth, limits, surface, pan, burner_kw))
    return found


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


def _ask(request: HttpRequest, rigs: list[tuple[RigOut, MatchRig]]) -> MatchInput:
    own = tuple(row.style for row in OwnStyle.objects.for_cook(request)[:20])
    return MatchInput(rigs=tuple(rig for _, rig in rigs), own_styles=own, altitude_m=kitchen_of(request).altitude_m)
