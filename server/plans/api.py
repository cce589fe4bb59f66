"""Plans over HTTP: preview, save, open, rename, delete and undo."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.plan import PlanResult
from mattone_engine.bake.plan_input import PlanInput, bake_of
from mattone_engine.bake.row import RowInput, RowResult, row
from ninja import Router, Status

from accounts.ownership import brought_back, changed, cook_id, owned_or_refuse, retired
from plans.models import Plan
from plans.schemas import PlanIn, PlanLine, PlanNameIn, PlanOut, PreviewIn, PreviewOut, RowAskIn, Sentence, SketchIn
from plans.services import preview, resolve

router = Router()


@router.post("/preview", response=PreviewOut)
def preview_plan(request: HttpRequest, body: PreviewIn) -> HttpResponse:
    """Plan without saving. Already validated, so it is sent as it is."""
    return HttpResponse(preview(request, body).model_dump_json(), content_type="application/json")


@router.post("/sketch", response=PreviewOut)
def sketch_plan(request: HttpRequest, body: SketchIn) -> HttpResponse:
    """Plan for the drawing alone, while something is dragged."""
    return HttpResponse(preview(request, body).model_dump_json(), content_type="application/json")


@router.post("/row", response=RowResult)
def plan_row(request: HttpRequest, body: RowAskIn) -> RowResult:
    """Several pizzas in a row on one deck: when each may be launched, and what becomes of it."""
    ask, _ = resolve(request, body)
    return row(RowInput(bake=bake_of(ask, body.controls), count=body.count, gap_min=body.gap_min))


@router.get("", response=list[PlanLine])
def list_plans(request: HttpRequest) -> list[PlanLine]:
    return [_line(row) for row in Plan.objects.for_cook(request)[:200]]


@router.post("", response={201: PlanOut})
def save_plan(request: HttpRequest, body: PlanIn) -> Status[PlanOut]:
    return Status(201, _out(Plan.objects.create(owner_id=cook_id(request), name=body.name, **kept(request, body))))


@router.get("/{plan_id}", response=PlanOut)
def open_plan(request: HttpRequest, plan_id: int) -> PlanOut:
    return _out(owned_or_refuse(Plan, request, plan_id))


@router.put("/{plan_id}", response=PlanOut)
def replace_plan(request: HttpRequest, plan_id: int, body: PlanIn, version: int | None = None) -> PlanOut:
    """Save the plan again with what the sentence and controls now say; 409 when it was changed meanwhile."""
    row = owned_or_refuse(Plan, request, plan_id)
    return _out(changed(row, {"name": body.name, **kept(request, body)}, version))


@router.patch("/{plan_id}", response=PlanOut)
def rename_plan(request: HttpRequest, plan_id: int, body: PlanNameIn) -> PlanOut:
    return _out(changed(owned_or_refuse(Plan, request, plan_id), {"name": body.name}, None))


@router.delete("/{plan_id}", response={204: None})
def delete_plan(request: HttpRequest, plan_id: int) -> Status[None]:
    retired(Plan, request, plan_id)
    return Status(204, None)


@router.post("/{plan_id}/restore", response=PlanOut)
def restore_plan(request: HttpRequest, plan_id: int) -> PlanOut:
    return _out(brought_back(Plan, request, plan_id))


def kept(request: HttpRequest, body: PlanIn) -> dict[str, Any]:
    """What a plan stores of this moment: words, question, answer, engine."""
    told = preview(request, body)
    return stored(told.sentence, told.names.model_dump(), told.ask, told.result)


def stored(sentence: Sentence, names: dict[str, Any], ask: PlanInput, result: PlanResult) -> dict[str, Any]:
    """A plan as a row keeps it."""
    return {
        "sentence": {"words": sentence.model_dump(), "names": names},
        "ask": ask.model_dump(mode="json") | {"controls": result.controls.model_dump()},
        "result": result.model_dump(mode="json"),
        "engine": result.engine,
    }


def _line(row: Plan) -> PlanLine:
    names = row.sentence["names"]
    return PlanLine(
        id=row.pk,
        version=row.version,
        name=row.name,
        style=row.sentence["words"]["style"],
        support=names["surface"] or names["pan"] or names["hearth"],
        likely_done_s=row.result["result"]["likely_done_s"],
        updated_at=row.updated_at,
    )


def _out(row: Plan) -> PlanOut:
    return PlanOut(
        id=row.pk,
        version=row.version,
        name=row.name,
        sentence=row.sentence["words"],
        names=row.sentence["names"],
        ask=row.ask,
        result=row.result,
        engine=row.engine,
        engine_now=ENGINE_VERSION,
        updated_at=row.updated_at,
    )
