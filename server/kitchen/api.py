"""Kitchen over HTTP: read it whole; add, change, retire and bring back each thing."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.things.catalogue import catalogue
from mattone_engine.things.fit import fit_note
from ninja import Router, Status

from accounts.ownership import Owned, cook_id, owned_or_refuse
from kitchen.models import Hearth, Kitchen, Pan, Surface
from kitchen.schemas import CatalogueOut, HearthIn, HearthOut, KitchenIn, KitchenOut, NoteOut, PanIn, PanOut, SurfaceIn, SurfaceOut
from kitchen.starter import STARTER

router = Router()


def kitchen_of(request: HttpRequest) -> Kitchen:
    """The cook's kitchen; made empty when first looked at."""
    kitchen, _ = Kitchen.objects.get_or_create(owner_id=cook_id(request))
    return kitchen


def whole(request: HttpRequest) -> KitchenOut:
    kitchen = kitchen_of(request)
    hearths, surfaces, pans = (list(model.objects.for_cook(request)) for model in (Hearth, Surface, Pan))
    notes = [
        NoteOut(noun=noun, id=row.pk, text=text)
        for noun, rows in (("surfaces", surfaces), ("pans", pans))
        for row in rows
        for hearth in hearths
        if (text := fit_note(row.extent, hearth.kind, hearth.name))
    ]
    return KitchenOut(
        name=kitchen.name,
        altitude_m=kitchen.altitude_m,
        notes=notes,
        hearths=[hearth_out(row) for row in hearths],
        surfaces=[SurfaceOut.from_orm(row) for row in surfaces],
        pans=[PanOut.from_orm(row) for row in pans],
    )


def hearth_out(row: Hearth) -> HearthOut:
    return HearthOut(**{name: getattr(row, name) for name in HearthOut.model_fields})


@router.get("", response=KitchenOut)
def read(request: HttpRequest) -> KitchenOut:
    return whole(request)


@router.get("/catalogue", response=CatalogueOut)
def read_catalogue(request: HttpRequest) -> CatalogueOut:
    """Generic things to begin from; every figure can be changed afterwards."""
    rows = catalogue()
    return CatalogueOut(
        hearths=[HearthIn.model_validate(row) for row in rows["hearth"]],
        surfaces=[SurfaceIn.model_validate(row) for row in rows["surface"]],
        pans=[PanIn.model_validate(row) for row in rows["pan"]],
    )


@router.put("", response=KitchenOut)
def change_kitchen(request: HttpRequest, kitchen: KitchenIn) -> KitchenOut:
    Kitchen.objects.update_or_create(owner_id=cook_id(request), defaults=kitchen.model_dump())
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


def _add(request: HttpRequest, model: type[Owned], values: Any) -> Any:
    return model.objects.create(owner_id=cook_id(request), **values.model_dump())


def _change(request: HttpRequest, model: type[Owned], row_id: int, values: Any) -> Any:
    row = owned_or_refuse(model, request, row_id)
    for name, value in values.model_dump().items():
        setattr(row, name, value)
    row.save()
    return row


def _retire(request: HttpRequest, model: type[Owned], row_id: int) -> Status[None]:
    row = owned_or_refuse(model, request, row_id)
    row.deleted_at = timezone.now()
    row.save(update_fields=["deleted_at"])
    return Status(204, None)


def _bring_back(request: HttpRequest, model: type[Owned], row_id: int) -> Any:
    row = owned_or_refuse(model, request, row_id, deleted=True)
    row.deleted_at = None
    row.save(update_fields=["deleted_at"])
    return row


@router.post("/hearths", response={201: HearthOut})
def add_hearth(request: HttpRequest, hearth: HearthIn) -> Status[HearthOut]:
    return Status(201, hearth_out(_add(request, Hearth, hearth)))


@router.put("/hearths/{hearth_id}", response=HearthOut)
def change_hearth(request: HttpRequest, hearth_id: int, hearth: HearthIn) -> HearthOut:
    return hearth_out(_change(request, Hearth, hearth_id, hearth))


@router.delete("/hearths/{hearth_id}", response={204: None})
def retire_hearth(request: HttpRequest, hearth_id: int) -> Status[None]:
    return _retire(request, Hearth, hearth_id)


@router.post("/hearths/{hearth_id}/restore", response=HearthOut)
def restore_hearth(request: HttpRequest, hearth_id: int) -> HearthOut:
    return hearth_out(_bring_back(request, Hearth, hearth_id))


@router.post("/surfaces", response={201: SurfaceOut})
def add_surface(request: HttpRequest, surface: SurfaceIn) -> Status[Any]:
    return Status(201, _add(request, Surface, surface))


@router.put("/surfaces/{surface_id}", response=SurfaceOut)
def change_surface(request: HttpRequest, surface_id: int, surface: SurfaceIn) -> Any:
    return _change(request, Surface, surface_id, surface)


@router.delete("/surfaces/{surface_id}", response={204: None})
def retire_surface(request: HttpRequest, surface_id: int) -> Status[None]:
    return _retire(request, Surface, surface_id)


@router.post("/surfaces/{surface_id}/restore", response=SurfaceOut)
def restore_surface(request: HttpRequest, surface_id: int) -> Any:
    return _bring_back(request, Surface, surface_id)


@router.post("/pans", response={201: PanOut})
def add_pan(request: HttpRequest, pan: PanIn) -> Status[Any]:
    return Status(201, _add(request, Pan, pan))


@router.put("/pans/{pan_id}", response=PanOut)
def change_pan(request: HttpRequest, pan_id: int, pan: PanIn) -> Any:
    return _change(request, Pan, pan_id, pan)


@router.delete("/pans/{pan_id}", response={204: None})
def retire_pan(request: HttpRequest, pan_id: int) -> Status[None]:
    return _retire(request, Pan, pan_id)


@router.post("/pans/{pan_id}/restore", response=PanOut)
def restore_pan(request: HttpRequest, pan_id: int) -> Any:
    return _bring_back(request, Pan, pan_id)
