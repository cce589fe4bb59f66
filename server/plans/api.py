"""Plans over HTTP: preview, save, open, rename, delete and undo."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from mattone_engine import ENGINE_VERSION
from ninja import Router, Status

from accounts.ownership import cook_id, owned_or_refuse
from plans.models import Plan
from plans.schemas import PlanIn, PlanLine, PlanNameIn, PlanOut, PreviewIn, PreviewOut, SketchIn
from plans.services import preview

router = Router()


@router.post("/preview", response=PreviewOut)
def preview_plan(request: HttpRequest, body: PreviewIn) -> HttpResponse:
    """Plan without saving. Already validated, so it is sent as it is."""
    return HttpResponse(preview(request, body).model_dump_json(), content_type="application/json")


@router.post("/sketch", response=PreviewOut)
def sketch_plan(request: HttpRequest, body: SketchIn) -> HttpResponse:
    """Plan for the drawing alone, while something is dragged."""
    return HttpResponse(preview(request, body).model_dump_json(), content_type="application/json")


@router.get("", response=list[PlanLine])
def list_plans(request: HttpRequest) -> list[PlanLine]:
    return [_line(row) for row in Plan.objects.for_cook(request)[:200]]


@router.post("", response={201: PlanOut})
def save_plan(request: HttpRequest, body: PlanIn) -> Status[PlanOut]:
    row = Plan(owner_id=cook_id(request), name=body.name)
    return Status(201, _out(keep(request, row, body)))


@router.get("/{plan_id}", response=PlanOut)
def open_plan(request: HttpRequest, plan_id: int) -> PlanOut:
    return _out(owned_or_refuse(Plan, request, plan_id))


@router.put("/{plan_id}", response=PlanOut)
def replace_plan(request: HttpRequest, plan_id: int, body: PlanIn) -> PlanOut:
    """Save the plan again with what the sentence and controls now say."""
    row = owned_or_refuse(Plan, request, plan_id)
    row.name = body.name
    return _out(keep(request, row, body))


@router.patch("/{plan_id}", response=PlanOut)
def rename_plan(request: HttpRequest, plan_id: int, body: PlanNameIn) -> PlanOut:
    row = owned_or_refuse(Plan, request, plan_id)
    row.name = body.name
    row.save(update_fields=["name", "updated_at"])
    return _out(row)


@router.delete("/{plan_id}", response={204: None})
def delete_plan(request: HttpRequest, plan_id: int) -> Status[None]:
    row = owned_or_refuse(Plan, request, plan_id)
    row.deleted_at = timezone.now()
    row.save(update_fields=["deleted_at"])
    return Status(204, None)


@router.post("/{plan_id}/restore", response=PlanOut)
def restore_plan(request: HttpRequest, plan_id: int) -> PlanOut:
    row = owned_or_refuse(Plan, request, plan_id, deleted=True)
    row.deleted_at = None
    row.save(update_fields=["deleted_at"])
    return _out(row)


def keep(request: HttpRequest, row: Plan, body: PlanIn) -> Plan:
    told = preview(request, body)
    row.sentence = {"words": told.sentence.model_dump(), "names": told.names.model_dump()}
    row.ask = told.ask.model_dump(mode="json") | {"controls": told.result.controls.model_dump()}
    row.result = told.result.model_dump(mode="json")
    row.engine = told.result.engine
    row.save()
    return row


def _line(row: Plan) -> PlanLine:
    names = row.sentence["names"]
    return PlanLine(
        id=row.pk,
        name=row.name,
        style=row.sentence["words"]["style"],
        support=names["surface"] or names["pan"],
        likely_done_s=row.result["result"]["likely_done_s"],
        updated_at=row.updated_at,
    )


def _out(row: Plan) -> PlanOut:
    return PlanOut(
        id=row.pk,
        name=row.name,
        sentence=row.sentence["words"],
        names=row.sentence["names"],
        ask=row.ask,
        result=row.result,
        engine=row.engine,
        engine_now=ENGINE_VERSION,
        updated_at=row.updated_at,
    )
