"""Kitchen over HTTP: read it whole; each noun has its shelf."""

from __future__ import annotations

from django.db import transaction
from django.http import HttpRequest
from mattone_engine.things.catalogue import catalogue
from mattone_engine.things.fit import coating_note, fit
from ninja import Router

from accounts import limits
from accounts.ownership import Version, cook_id, update_versioned
from kitchen.models import Hearth, Instrument, Kitchen, Pan, Surface, Tool
from kitchen.rigs import RigsOut, all_rigs
from kitchen.schemas import (
    CatalogueOut,
    HearthIn,
    HearthOut,
    InstrumentIn,
    InstrumentOut,
    KitchenIn,
    KitchenOut,
    NoteOut,
    PanIn,
    PanOut,
    SurfaceIn,
    SurfaceOut,
    ToolIn,
    ToolOut,
)
from kitchen.shelves import shelf
from kitchen.starter import STARTER

router = Router()


def kitchen_of(request: HttpRequest) -> Kitchen:
    """The cook's kitchen; made empty when first looked at."""
    kitchen, _ = Kitchen.objects.get_or_create(owner_id=cook_id(request))
    return kitchen


def whole(request: HttpRequest) -> KitchenOut:
    kitchen = kitchen_of(request)
    hearths = list(Hearth.objects.for_cook(request).prefetch_related("calibrations"))
    surfaces, pans, instruments, tools = (list(model.objects.for_cook(request)) for model in (Surface, Pan, Instrument, Tool))
    notes = [
        NoteOut(noun=noun, id=row.pk, text=text)
        for noun, rows in (("surfaces", surfaces), ("pans", pans))
        for row in rows
        for hearth in hearths
        if (text := fit(row.extent, hearth.room).text)
    ]
    notes += [
        NoteOut(noun="pans", id=row.pk, text=text)
        for row in pans
        for hearth in hearths
        if row.coating_limit_c is not None and (text := coating_note(row.coating_limit_c, hearth.kind, hearth.max_setpoint_c, hearth.name))
    ]
    return KitchenOut(
        name=kitchen.name,
        version=kitchen.version,
        altitude_m=kitchen.altitude_m,
        notes=notes,
        hearths=[hearth_out(row) for row in hearths],
        surfaces=[SurfaceOut.from_orm(row) for row in surfaces],
        pans=[PanOut.from_orm(row) for row in pans],
        instruments=[InstrumentOut.from_orm(row) for row in instruments],
        tools=[ToolOut.from_orm(row) for row in tools],
    )


def hearth_out(row: Hearth) -> HearthOut:
    return HearthOut(**{name: getattr(row, name) for name in HearthOut.model_fields})


@router.get("", response=KitchenOut)
def read(request: HttpRequest) -> KitchenOut:
    return whole(request)


@router.get("/rigs", response=RigsOut)
def read_rigs(request: HttpRequest) -> RigsOut:
    """What of this kitchen bakes: each hearth with what may stand in or on it."""
    return all_rigs(request)[0]


@router.get("/catalogue", response=CatalogueOut)
def read_catalogue(request: HttpRequest) -> CatalogueOut:
    """Generic things to begin from; every figure can be changed afterwards."""
    rows = catalogue()
    return CatalogueOut(
        hearths=[HearthIn.model_validate(row) for row in rows["hearth"]],
        surfaces=[SurfaceIn.model_validate(row) for row in rows["surface"]],
        pans=[PanIn.model_validate(row) for row in rows["pan"]],
        instruments=[InstrumentIn.model_validate(row) for row in rows["instrument"]],
        tools=[ToolIn.model_validate(row) for row in rows["tool"]],
    )


@router.put("", response=KitchenOut)
def change_kitchen(request: HttpRequest, kitchen: KitchenIn, version: Version) -> KitchenOut:
    """Its name and height; 409, with the kitchen as it is, when they were changed after `version`."""
    update_versioned(
        kitchen_of(request), kitchen.model_dump(), version, show=lambda row: {"name": row.name, "altitude_m": row.altitude_m, "version": row.version}
    )
    return whole(request)


@router.post("/starter", response=KitchenOut)
def add_starter(request: HttpRequest) -> KitchenOut:
    """Put a generic oven, steel, stone and tray into an empty kitchen; a full one stays as it is."""
    kitchen_of(request)
    with transaction.atomic():
        Kitchen.objects.select_for_update().get(owner_id=cook_id(request))
        for model, rows in STARTER:
            if not model.objects.for_cook(request).exists():
                for row in rows:
                    model.objects.create(owner_id=cook_id(request), **row)
    return whole(request)


shelf(router, "hearths", Hearth, HearthIn, HearthOut, limits.HEARTHS, hearth_out)
shelf(router, "surfaces", Surface, SurfaceIn, SurfaceOut, limits.SURFACES)
shelf(router, "pans", Pan, PanIn, PanOut, limits.PANS)
shelf(router, "tools", Tool, ToolIn, ToolOut, limits.TOOLS)
shelf(router, "instruments", Instrument, InstrumentIn, InstrumentOut, limits.INSTRUMENTS)
