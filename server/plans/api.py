"""Plans over HTTP: preview, save, open, rename, delete and undo."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.plan import PlanResult
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import RowInput, RowResult
from mattone_engine.supper.lots import piece_sizes
from ninja import Router, Status

from accounts.limits import PLANS, refuse_more
from accounts.lists import Page, page
from accounts.ownership import Version, cook_id, library, of_library_or_refuse, owned_or_refuse, restore, soft_delete, update_versioned
from documents.reading import readable
from plans.models import ANSWER, QUESTION, SENTENCE, Plan
from plans.schemas import PlanIn, PlanLine, PlanNameIn, PlanOut, PreviewIn, PreviewOut, RigNames, RowAskIn, SaidSentence, Sentence, SketchIn
from plans.services import preview, preview_text, resolve, under_of
from work.answers import answer_text

router = Router()


@router.post("/preview", response=PreviewOut)
def preview_plan(request: HttpRequest, body: PreviewIn) -> HttpResponse:
    """Plan without saving. Already validated, so it is sent as it is."""
    return HttpResponse(preview_text(request, body), content_type="application/json")


@router.post("/sketch", response=PreviewOut)
def sketch_plan(request: HttpRequest, body: SketchIn) -> HttpResponse:
    """Plan for the drawing alone, while something is dragged."""
    return HttpResponse(preview_text(request, body), content_type="application/json")


@router.post("/row", response=RowResult)
def plan_row(request: HttpRequest, body: RowAskIn) -> HttpResponse:
    """Several pizzas in a row on one deck: when each may be launched, and what becomes of it."""
    ask, _ = resolve(request, body)
    spec = bake_of(ask, body.controls)
    sizes = piece_sizes(body.dough, ask.dough)[: body.count]
    asked = RowInput(bake=spec, count=body.count, gap_min=body.gap_min, hands=body.hands, together=body.together, sizes=sizes)
    return HttpResponse(answer_text(request, "row", asked, keep_it=False), content_type="application/json")


@router.get("", response=list[PlanLine])
def list_plans(request: HttpRequest, response: HttpResponse, page_size: Page = 200, after: str = "") -> list[PlanLine]:
    """The newest first, a page at a time; the header X-Next says how the next one is asked for."""
    return [_line(row) for row in page(library(Plan, request), response, page_size, after, newest="updated_at")]


@router.post("", response={201: PlanOut})
def save_plan(request: HttpRequest, body: PlanIn) -> Status[PlanOut]:
    refuse_more(Plan, request, PLANS, part=False)
    return Status(201, plan_out(Plan.objects.create(owner_id=cook_id(request), name=body.name, **kept(request, body))))


@router.get("/{plan_id}", response=PlanOut)
def open_plan(request: HttpRequest, plan_id: int) -> PlanOut:
    return plan_out(owned_or_refuse(Plan, request, plan_id))


@router.put("/{plan_id}", response=PlanOut)
def replace_plan(request: HttpRequest, plan_id: int, body: PlanIn, version: Version) -> PlanOut:
    """Save the plan again with what the sentence and controls now say; 409, with the plan as it is, when it was changed meanwhile."""
    row = of_library_or_refuse(Plan, request, plan_id)
    return plan_out(update_versioned(row, {"name": body.name, **kept(request, body)}, version, show=plan_out))


@router.patch("/{plan_id}", response=PlanOut)
def rename_plan(request: HttpRequest, plan_id: int, body: PlanNameIn, version: Version) -> PlanOut:
    return plan_out(update_versioned(of_library_or_refuse(Plan, request, plan_id), {"name": body.name}, version, show=plan_out))


@router.delete("/{plan_id}", response={204: None})
def delete_plan(request: HttpRequest, plan_id: int, version: Version) -> Status[None]:
    soft_delete(Plan, request, of_library_or_refuse(Plan, request, plan_id).pk, version, show=_line)
    return Status(204, None)


@router.post("/{plan_id}/restore", response=PlanLine)
def restore_plan(request: HttpRequest, plan_id: int) -> PlanLine:
    return _line(restore(Plan, request, plan_id))


def kept(request: HttpRequest, body: PreviewIn) -> dict[str, Any]:
    """What a plan stores of this moment: words, question, answer, engine."""
    told = preview(request, body)
    return stored(told.sentence, told.names, told.ask, told.result)


def stored(sentence: Sentence, names: RigNames, ask: PlanInput, result: PlanResult) -> dict[str, Any]:
    """A plan as a row keeps it."""
    return {
        "sentence": SENTENCE.write(SaidSentence(words=sentence, names=names)),
        "ask": QUESTION.write(ask.model_copy(update={"controls": result.controls})),
        "result": ANSWER.write(result),
        "engine": result.engine,
    }


def _line(row: Plan) -> PlanLine:
    told, problem = readable("plan", lambda: _told_line(row))
    return PlanLine(id=row.pk, version=row.version, name=row.name, problem=problem, updated_at=row.updated_at, **(told or {}))


def _told_line(row: Plan) -> dict[str, Any]:
    # A list is read often: of the long answer only the figure it shows.
    said = row.said
    likely = float(ANSWER.upgraded(row.result)["result"]["likely_done_s"])
    return {"style": said.words.style, "support": said.names.surface or said.names.pan or said.names.hearth, "likely_done_s": likely}


def plan_out(row: Plan) -> PlanOut:
    """A plan as a view opens it."""
    said, supper = row.said, getattr(row, "supper", None)
    return PlanOut(
        id=row.pk,
        supper_id=supper.pk if supper is not None else None,
        version=row.version,
        name=row.name,
        sentence=said.words.model_dump(mode="json"),
        names=said.names,
        under=under_of(row.question, None),
        ask=QUESTION.upgraded(row.ask),
        result=row.answer,
        engine=row.engine,
        engine_now=ENGINE_VERSION,
        updated_at=row.updated_at,
    )
