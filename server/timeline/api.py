"""Suppers over HTTP: lay out the days, save, mark what is done, hand them to a calendar."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from mattone_engine.bake.topping_effect import Effect, EffectInput
from mattone_engine.days.beside import BesideItem
from mattone_engine.dough.toppings import ToppingInput
from mattone_engine.errors import InputError
from mattone_engine.formats.calendar import as_calendar
from mattone_engine.supper.headline import Headline
from ninja import Router, Status

import timeline.events  # noqa: F401  registers what happens in a supper
from accounts.limits import SUPPERS, refuse_more
from accounts.lists import Page, page
from accounts.ownership import Version, owned_or_refuse, restore, soft_delete
from documents.files import answers_with
from documents.moments import date_problem
from documents.reading import readable
from dough.api import dough_out
from plans.api import plan_out
from plans.schemas import PreviewIn
from plans.services import resolve
from timeline.days import answered, days, start
from timeline.models import Supper
from timeline.parts import beside_of, headline_of, headline_of_row, parts_of
from timeline.saving import fresh, save_new, save_over
from timeline.schemas import EffectAsk, NextOut, StartSupper, SupperAsk, SupperIn, SupperLine, SupperOut, SupperParts, SupperPreview, SupperWords
from work.answers import answer_text

router = Router()

# How long after it should have begun a step is still "next".
STILL_NEXT = timedelta(hours=12)
# None of it stands in a list.
LONG = ("words", "ask", "result", "dough__body", "plan__sentence", "plan__ask", "plan__result")


@router.post("/start", response=SupperWords)
def start_supper(request: HttpRequest, body: StartSupper) -> SupperWords:
    return start(request, body)


@router.post("/preview", response=SupperPreview)
def preview_supper(request: HttpRequest, body: SupperAsk) -> HttpResponse:
    """Lay out the days without saving. Already validated, so it is sent as it is."""
    return HttpResponse(days(request, parts_of(request, body, _saved(request, body)), body.words).model_dump_json(), content_type="application/json")


@router.post("/headline", response=Headline)
def headline(request: HttpRequest, body: SupperParts) -> Headline:
    """The line at the head of every view, for a supper as it is being changed."""
    return headline_of(request, body, _saved(request, body))


@router.post("/beside", response=list[BesideItem])
def beside(request: HttpRequest, body: SupperParts) -> list[BesideItem]:
    """What is used beside the dough of a supper as it is being changed. Nothing is baked for it."""
    return beside_of(request, body, _saved(request, body))


def _saved(request: HttpRequest, body: SupperParts) -> Supper | None:
    return owned_or_refuse(Supper, request, body.supper_id, path="supper_id") if body.supper_id is not None else None


@router.post("/effect", response=Effect)
def effect(request: HttpRequest, body: EffectAsk) -> HttpResponse:
    """What these toppings do in the oven of this plan."""
    ask, _ = resolve(request, PreviewIn(sentence=body.plan.sentence, controls=body.plan.controls, dough=body.dough))
    toppings = ToppingInput(picks=body.picks, area_cm2=ask.dough.area_cm2, style=ask.style, own_style=ask.own_style)
    return HttpResponse(answer_text(request, "topping_effect", EffectInput(plan=ask, toppings=toppings)), content_type="application/json")


@router.get("/next", response=NextOut)
def next_step(request: HttpRequest) -> NextOut:
    """The first step that is neither done nor long past, of all saved suppers."""
    now = timezone.now()
    best: tuple[str, NextOut] | None = None
    for row in Supper.objects.for_cook(request).filter(serve_at__gt=now - STILL_NEXT)[:20]:
        # One that cannot be read is told where it is listed; the next step is of those that can.
        told, _ = readable("supper", lambda row=row: _next_of(answered(request, row), now))  # type: ignore[misc]
        if told is not None and (best is None or told[0] < best[0]):
            best = told
    return best[1] if best else NextOut(supper_id=None, supper="", step_key="", step="", note="", at=None, serve_at=None, pizzas=0)


def _next_of(row: Supper, now: datetime) -> tuple[str, NextOut] | None:
    """When a supper's next step is, and what it is."""
    told, words = row.told, row.words_read
    if told is None or words is None:
        return None
    result = told.result
    done = {one.step for one in words.fixed if one.done}
    for step in result.steps:
        late = (now - datetime.fromisoformat(step.at)) > STILL_NEXT
        if step.done or step.key in done or late or step.lane == "table":
            continue
        if step.key.split("_")[0] in ("launch", "shape", "heat", "top", "hob") and datetime.fromisoformat(step.ends) < now:
            continue
        return step.at, NextOut(
            supper_id=row.pk, supper=row.name, step_key=step.key, step=step.name, note=step.note, at=step.at, serve_at=result.serve_at, pizzas=words.pizzas,
        )  # fmt: skip
    return None


@router.get("", response=list[SupperLine])
def list_suppers(request: HttpRequest, response: HttpResponse, page_size: Page = 200, after: str = "") -> list[SupperLine]:
    """The newest first, a page at a time; the header X-Next says how the next one is asked for."""
    rows = page(Supper.objects.for_cook(request).select_related("dough", "plan").defer(*LONG), response, page_size, after, newest="updated_at")
    return [_line(row) for row in rows]


def _line(row: Supper) -> SupperLine:
    return SupperLine(
        id=row.pk, version=row.revision, name=row.name, serve_at=row.serve_at, baked=row.plan_id is not None, updated_at=row.updated_at,
        problem=date_problem("supper", row.serve_at),
    )  # fmt: skip


@router.post("", response={201: SupperOut})
def save_supper(request: HttpRequest, body: SupperIn) -> Status[SupperOut]:
    refuse_more(Supper, request, SUPPERS)
    new = fresh(request, body, None)
    with transaction.atomic():
        row = save_new(request, new)
    return Status(201, _out(row))


@router.get("/{supper_id}", response=SupperOut)
def open_supper(request: HttpRequest, supper_id: int) -> SupperOut:
    """The supper; laid out anew first when something happened in it since."""
    return _out(answered(request, owned_or_refuse(Supper, request, supper_id)))


@router.put("/{supper_id}", response=SupperOut)
def replace_supper(request: HttpRequest, supper_id: int, body: SupperIn, version: Version) -> SupperOut:
    """Save it as it is now; 409, with the supper as it is, when it was changed meanwhile."""
    row = owned_or_refuse(Supper, request, supper_id)
    return _out(save_over(row, fresh(request, body, row), version, show=_out))


@router.delete("/{supper_id}", response={204: None})
def delete_supper(request: HttpRequest, supper_id: int, version: Version) -> Status[None]:
    soft_delete(Supper, request, supper_id, version - owned_or_refuse(Supper, request, supper_id).happened, show=_line)
    return Status(204, None)


@router.post("/{supper_id}/restore", response=SupperLine)
def restore_supper(request: HttpRequest, supper_id: int) -> SupperLine:
    return _line(restore(Supper, request, supper_id))


@router.get("/{supper_id}/calendar.ics", openapi_extra=answers_with("text/calendar"))
def calendar(request: HttpRequest, supper_id: int) -> HttpResponse:
    """The saved supper as iCalendar; a later export moves the same events."""
    row = answered(request, owned_or_refuse(Supper, request, supper_id))
    told, words = row.told, row.words_read
    if told is None or words is None:
        raise InputError("", "This supper has no date yet; set one in Timeline, then export it.")
    if not told.result.feasible:
        raise InputError("", "This supper cannot be done as it stands; take an offer or change it, then export it.")
    text = as_calendar(told.result, name=row.name, identity=str(row.identity), revision=row.version, time_zone=words.time_zone, stamped=row.updated_at)
    answer = HttpResponse(text, content_type="text/calendar; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="supper-{row.pk}.ics"'
    return answer


def _out(row: Supper) -> SupperOut:
    return SupperOut(
        id=row.pk,
        version=row.revision,
        name=row.name,
        words=row.words_read,
        dough=dough_out(row.dough) if row.dough is not None else None,
        plan=plan_out(row.plan) if row.plan is not None else None,
        told=row.told,
        headline=headline_of_row(row),
        updated_at=row.updated_at,
    )
