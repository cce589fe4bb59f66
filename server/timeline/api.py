"""Suppers over HTTP: lay out the days, save, mark what is done, hand them to a calendar."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.topping_effect import Effect, EffectInput, topping_effect
from mattone_engine.days.timeline import TimelineResult
from mattone_engine.dough.toppings import ToppingInput
from mattone_engine.errors import InputError
from mattone_engine.formats.calendar import as_calendar
from ninja import Router, Status

from accounts.ownership import brought_back, changed, cook_id, owned_or_refuse, retired
from plans.models import Plan
from timeline.models import Supper
from timeline.schemas import (
    DoneIn,
    EffectAsk,
    NextOut,
    StartSupper,
    SupperIn,
    SupperLine,
    SupperOut,
    SupperPreview,
    SupperWords,
)
from timeline.services import local_now, mark_mixed, preview, start, stored

router = Router()

# How long after it should have begun a step is still "next".
STILL_NEXT = timedelta(hours=12)


@router.post("/start", response=SupperWords)
def start_supper(request: HttpRequest, body: StartSupper) -> SupperWords:
    return start(request, body)


@router.post("/preview", response=SupperPreview)
def preview_supper(request: HttpRequest, body: SupperWords) -> HttpResponse:
    """Lay out the days without saving. Already validated, so it is sent as it is."""
    return HttpResponse(preview(request, body).model_dump_json(), content_type="application/json")


@router.post("/effect", response=Effect)
def effect(request: HttpRequest, body: EffectAsk) -> Effect:
    """What these toppings do in the oven of a saved plan."""
    plan = owned_or_refuse(Plan, request, body.plan_id, path="plan_id")
    ask = PlanInput.model_validate(plan.ask)
    toppings = ToppingInput(picks=body.picks, area_cm2=ask.dough.area_cm2, style=ask.style, own_style=ask.own_style)
    return topping_effect(EffectInput(plan=ask, toppings=toppings))


@router.get("/next", response=NextOut)
def next_step(request: HttpRequest) -> NextOut:
    """The first step that is neither done nor long past, of all saved suppers."""
    now = timezone.now()
    best: tuple[str, NextOut] | None = None
    for row in Supper.objects.for_cook(request).filter(serve_at__gt=now - STILL_NEXT)[:20]:
        for step in row.steps:
            late = (now - datetime.fromisoformat(step.at)) > STILL_NEXT
            if step.done or late or step.lane == "table":
                continue
            if step.key.split("_")[0] in ("launch", "shape", "heat", "top") and datetime.fromisoformat(step.ends) < now:
                continue
            if best is None or step.at < best[0]:
                best = (
                    step.at,
                    NextOut(
                        supper_id=row.pk, supper=row.name, step_key=step.key, step=step.name, note=step.note, at=step.at,
                        serve_at=row.result["result"]["serve_at"], pizzas=int(row.words["pizzas"]),
                    ),
                )  # fmt: skip
            break
    return best[1] if best else NextOut(supper_id=None, supper="", step_key="", step="", note="", at=None, serve_at=None, pizzas=0)


@router.get("", response=list[SupperLine])
def list_suppers(request: HttpRequest) -> list[SupperLine]:
    # What was asked and answered is long, and none of it stands in a list.
    rows = Supper.objects.for_cook(request).defer("words", "ask", "result")[:200]
    return [SupperLine(id=row.pk, name=row.name, serve_at=row.serve_at, updated_at=row.updated_at) for row in rows]


@router.post("", response={201: SupperOut})
def save_supper(request: HttpRequest, body: SupperIn) -> Status[SupperOut]:
    row = Supper.objects.create(owner_id=cook_id(request), name=body.name, **stored(preview(request, body), body))
    mark_mixed(row)
    return Status(201, _out(row))


@router.get("/{supper_id}", response=SupperOut)
def open_supper(request: HttpRequest, supper_id: int) -> SupperOut:
    return _out(owned_or_refuse(Supper, request, supper_id))


@router.put("/{supper_id}", response=SupperOut)
def replace_supper(request: HttpRequest, supper_id: int, body: SupperIn, version: int | None = None) -> SupperOut:
    row = owned_or_refuse(Supper, request, supper_id)
    kept: Supper = changed(row, {"name": body.name, **stored(preview(request, body, saved=row), body)}, version)
    mark_mixed(kept)
    return _out(kept)


@router.post("/{supper_id}/done", response=SupperOut)
def step_done(request: HttpRequest, supper_id: int, body: DoneIn) -> SupperOut:
    """Mark a step as done; the rest is laid out anew around it."""
    row = owned_or_refuse(Supper, request, supper_id)
    words = SupperWords.model_validate(row.words)
    if not any(step.key == body.step for step in row.steps):
        raise InputError("step", "This supper has no such step; reload and mark it again.")
    fixed = [one for one in words.fixed if one.step != body.step]
    at = body.at if body.at is not None else local_now(words.time_zone)
    words = SupperWords.model_validate({**dict(words), "fixed": (*fixed, {"step": body.step, "at": at, "done": True})})
    kept: Supper = changed(row, stored(preview(request, words, saved=row), words), None)
    mark_mixed(kept)
    return _out(kept)


@router.delete("/{supper_id}", response={204: None})
def delete_supper(request: HttpRequest, supper_id: int) -> Status[None]:
    retired(Supper, request, supper_id)
    return Status(204, None)


@router.post("/{supper_id}/restore", response=SupperOut)
def restore_supper(request: HttpRequest, supper_id: int) -> SupperOut:
    return _out(brought_back(Supper, request, supper_id))


@router.get("/{supper_id}/calendar.ics", response={200: Any})
def calendar(request: HttpRequest, supper_id: int) -> HttpResponse:
    """The saved supper as iCalendar; a later export moves the same events."""
    row = owned_or_refuse(Supper, request, supper_id)
    told: TimelineResult = SupperPreview.model_validate(row.result).result
    if not told.feasible:
        raise InputError("", "This supper cannot be done as it stands; take an offer or change it, then export it.")
    text = as_calendar(told, name=row.name, identity=str(row.identity), revision=row.version, time_zone=row.words["time_zone"], stamped=row.updated_at)
    answer = HttpResponse(text, content_type="text/calendar; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="supper-{row.pk}.ics"'
    return answer


def _out(row: Supper) -> SupperOut:
    return SupperOut(
        id=row.pk,
        version=row.version,
        name=row.name,
        words=SupperWords.model_validate(row.words),
        told=SupperPreview.model_validate(row.result),
        updated_at=row.updated_at,
    )
