"""Doughs over HTTP: work one out, read a pasted one, save, open, watch it rise."""

from __future__ import annotations

import json
import re
from datetime import datetime
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from mattone_engine.bake.oven_wish import AcceptInput, OvenWish, WishInput, accepted
from mattone_engine.dough.batch import BatchInput, BatchResult, DoughInput, batch
from mattone_engine.dough.formula import formula
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import FormulaInput
from mattone_engine.dough.measures import from_grams, household, other_yeast, to_grams
from mattone_engine.dough.read_text import CorrectedInput, ReadInput, ReadResult, as_text, corrected, read_text
from mattone_engine.errors import InputError
from mattone_engine.formats.recipe import as_csv, as_recipe, from_csv, from_recipe
from ninja import Router, Status

import dough.events  # noqa: F401  registers what happens to a dough
from accounts.limits import DOUGHS, refuse_more
from accounts.lists import Page, page
from accounts.ownership import Version, cook_id, library, of_library_or_refuse, owned_or_refuse, restore, soft_delete, update_versioned
from documents.moments import date_problem
from documents.reading import readable
from dough.models import DOUGH, Dough
from dough.schemas import (
    Amount,
    ConvertAsk,
    ConvertOut,
    DoughIn,
    DoughLine,
    DoughOut,
    OvenAsk,
    StartAsk,
    WriteAsk,
    WrittenOut,
)
from dough.services import as_moment, at_home, start
from plans.services import preview, resolve
from work.answers import answer_text

router = Router()

# The units an amount is told in.
TOLD_UNITS = ("g", "oz", "lb", "ml", "tsp", "tbsp", "cup")


@router.post("/batch", response=BatchResult)
def work_out(request: HttpRequest, body: BatchInput) -> HttpResponse:
    """Formula, rise and water after one edit. Already validated, so it is sent as it is."""
    return HttpResponse(batch(body.model_copy(update={"dough": at_home(request, body.dough)})).model_dump_json(), content_type="application/json")


@router.post("/start", response=DoughInput)
def start_dough(request: HttpRequest, body: StartAsk) -> DoughInput:
    """The dough a plan or a style begins with."""
    return start(request, body)


@router.post("/read", response=ReadResult)
def read_list(request: HttpRequest, body: ReadInput) -> ReadResult:
    """A pasted list, a schema.org Recipe or a CSV table, whichever it is."""
    text = body.text.strip()
    if text[:1] in ("{", "["):
        return from_recipe(text, body.fill)
    if re.match(r"[^\n]*\bingredient\b[^\n]*,[^\n]*\bgrams\b|[^\n]*\bgrams\b[^\n]*,[^\n]*\bingredient\b", text):
        return from_csv(text)
    return read_text(body)


@router.post("/readings", response=ReadResult)
def read_corrected(request: HttpRequest, body: CorrectedInput) -> ReadResult:
    return corrected(body)


@router.post("/convert", response=ConvertOut)
def convert(request: HttpRequest, body: ConvertAsk) -> ConvertOut:
    grams = to_grams(body.ingredient, body.amount, body.unit, body.fill)
    amounts = []
    for unit in TOLD_UNITS:
        try:
            amounts.append(Amount(unit=unit, amount=from_grams(body.ingredient, grams, unit, body.fill)))
        except InputError:
            continue
    kinds = [key for key, thing in ingredients().items() if thing.role == "yeast"]
    yeasts = [Amount(unit=key, amount=other_yeast(grams, body.ingredient, key)) for key in kinds] if body.ingredient in kinds else []
    return ConvertOut(grams=grams, household=household(body.ingredient, grams, body.fill), amounts=amounts, yeasts=yeasts)


@router.post("/write", response=WrittenOut)
def write(request: HttpRequest, body: WriteAsk) -> WrittenOut:
    """The dough as a schema.org Recipe, a table or a plain list."""
    told = body.dough.formula
    text = {
        "recipe": lambda: json.dumps(as_recipe(told, body.name), indent=2, ensure_ascii=False),
        "csv": lambda: as_csv(told),
        "text": lambda: as_text(told.lines, formula(told).flour_g),
    }[body.form]()
    stem = re.sub(r"[^a-z0-9]+", "-", body.name.lower()).strip("-") or "dough"
    return WrittenOut(filename=f"{stem}.{ {'recipe': 'json', 'csv': 'csv', 'text': 'txt'}[body.form] }", text=text)


@router.post("/oven", response=OvenWish)
def oven(request: HttpRequest, body: OvenAsk) -> HttpResponse:
    """The crust of a plan with this dough, by the controls that the plan has with it; and what its oven wants of it."""
    told = preview(request, body.plan.model_copy(update={"dough": body.dough}))
    usual, _ = resolve(request, body.plan.model_copy(update={"dough": None}))
    asked = WishInput(plan=usual.model_copy(update={"controls": told.result.controls}), dough=body.dough)
    return HttpResponse(answer_text(request, "oven_wish", asked), content_type="application/json")


@router.post("/accept", response=FormulaInput)
def accept(request: HttpRequest, body: AcceptInput) -> FormulaInput:
    """The formula with an oven's wish in it."""
    return accepted(body)


@router.get("", response=list[DoughLine])
def list_doughs(request: HttpRequest, response: HttpResponse, page_size: Page = 200, after: str = "") -> list[DoughLine]:
    """The newest first, a page at a time; the header X-Next says how the next one is asked for."""
    return [_line(row) for row in page(library(Dough, request), response, page_size, after, newest="updated_at")]


@router.post("", response={201: DoughOut})
def save_dough(request: HttpRequest, body: DoughIn) -> Status[DoughOut]:
    refuse_more(Dough, request, DOUGHS, part=False)
    return Status(201, dough_out(Dough.objects.create(owner_id=cook_id(request), **_stored(request, body))))


@router.get("/{dough_id}", response=DoughOut)
def open_dough(request: HttpRequest, dough_id: int) -> DoughOut:
    return dough_out(owned_or_refuse(Dough, request, dough_id))


@router.put("/{dough_id}", response=DoughOut)
def replace_dough(request: HttpRequest, dough_id: int, body: DoughIn, version: Version) -> DoughOut:
    """Save it as it is now; 409, with the dough as it is, when it was changed meanwhile."""
    return dough_out(update_versioned(of_library_or_refuse(Dough, request, dough_id), _stored(request, body), version, show=dough_out))


@router.delete("/{dough_id}", response={204: None})
def delete_dough(request: HttpRequest, dough_id: int, version: Version) -> Status[None]:
    soft_delete(Dough, request, of_library_or_refuse(Dough, request, dough_id).pk, version, show=_line)
    return Status(204, None)


@router.post("/{dough_id}/restore", response=DoughLine)
def restore_dough(request: HttpRequest, dough_id: int) -> DoughLine:
    return _line(restore(Dough, request, dough_id))


def _stored(request: HttpRequest, body: DoughIn) -> dict[str, Any]:
    """A dough as a row keeps it; refused when it cannot be worked out."""
    batch(BatchInput(dough=body.dough))
    return {
        "name": body.name,
        "body": DOUGH.write(body.dough),
        "mixed_at": as_moment(body.mixed_at, "mixed_at") if body.mixed_at is not None else None,
    }


def _line(row: Dough) -> DoughLine:
    told, unread = readable("dough", lambda: _told_line(row))
    problem = date_problem("dough", row.mixed_at) or unread
    return DoughLine(id=row.pk, version=row.version, name=row.name, mixed_at=row.mixed_at, updated_at=row.updated_at, problem=problem, **(told or {}))


def _told_line(row: Dough) -> dict[str, Any]:
    told = row.dough.formula
    return {"style": told.style, "pieces": sum(p.count for p in told.pieces), "dough_g": sum(p.count * p.each_g for p in told.pieces)}


def _planned_at(row: Dough) -> datetime | None:
    """When the supper that it belongs to has its mixing done; None without one, and when that is past."""
    supper: Any = getattr(row, "supper", None)
    ahead = supper is not None and supper.deleted_at is None and supper.serve_at is not None and supper.serve_at > timezone.now()
    steps, _ = readable("supper", lambda: supper.steps if ahead else [])
    return next((datetime.fromisoformat(step.ends) for step in steps or [] if step.key == "mix"), None)


def dough_out(row: Dough) -> DoughOut:
    """A dough as a view opens it."""
    supper: Any = getattr(row, "supper", None)
    return DoughOut(
        id=row.pk,
        supper_id=supper.pk if supper is not None else None,
        version=row.version,
        name=row.name,
        dough=row.dough,
        mixed_at=row.mixed_at,
        planned_at=_planned_at(row) if row.mixed_at is None else None,
        updated_at=row.updated_at,
    )
