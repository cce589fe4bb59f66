"""Bakes over HTTP: start one, see those under way, ask what to do now. What happens is told as events."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from mattone_engine.errors import InputError
from ninja import Router, Status

import bakes.events  # noqa: F401  registers what happens in a bake
from accounts.limits import BAKES, refuse_more
from accounts.lists import Page, page
from accounts.ownership import Version, cook_id, owned_or_refuse, restore, soft_delete
from bakes.courses import undone
from bakes.journal import question_at, told_of
from bakes.models import SUPPER, Bake
from bakes.schemas import AnswerOut, BakeLine, BakeOut, HappenedOut, MomentIn, Stage, StartIn
from bakes.starting import begun
from documents.moments import date_problem
from documents.reading import readable
from kitchen.models import Hearth
from plans.models import QUESTION, SENTENCE
from work.answers import answer_text, ready_at_hand

router = Router()

# Heat that went on longer ago than this is forgotten, not under way; and a clock may run ahead by so much.
LONGEST_AGO, AHEAD = timedelta(hours=8), timedelta(minutes=10)


@router.post("", response={201: BakeOut})
def start_bake(request: HttpRequest, body: StartIn) -> Status[BakeOut]:
    """Freeze a plan into a bake. A hearth bakes one at a time."""
    now = timezone.now()
    if not now - LONGEST_AGO <= body.heat_on_at <= now + AHEAD:
        raise InputError("heat_on_at", "The heat went on within the last eight hours, or goes on now; set the clock of this device.")
    refuse_more(Bake, request, BAKES)
    start = begun(request, body)
    hearth = Hearth.objects.for_cook(request).filter(pk=start.said.words.hearth_id).first()
    try:
        with transaction.atomic():
            row = Bake.objects.create(
                owner_id=cook_id(request),
                name=start.name,
                plan=start.plan,
                hearth=hearth,
                sentence=SENTENCE.write(start.said),
                ask=QUESTION.write(start.ask),
                engine=start.engine,
                supper=SUPPER.write(start.supper) if start.supper is not None else None,
                pizzas=start.pizzas,
                together=start.together,
                heat_on_at=body.heat_on_at,
            )
    except IntegrityError as error:
        raise InputError("plan_id", f"A bake is under way in the {start.said.names.hearth} already; end that one first.") from error
    ready_at_hand()
    return Status(201, _out(row))


@router.get("", response=list[BakeLine])
def list_bakes(request: HttpRequest, response: HttpResponse, page_size: Page = 200, after: str = "") -> list[BakeLine]:
    """The newest first, a page at a time; the header X-Next says how the next one is asked for."""
    return [_line(row) for row in page(Bake.objects.for_cook(request), response, page_size, after, newest="heat_on_at")]


@router.get("/under-way", response=list[BakeLine])
def bakes_under_way(request: HttpRequest) -> list[BakeLine]:
    """Those that were not ended: what every view keeps in sight."""
    rows = [_line(row) for row in Bake.objects.for_cook(request).filter(ended_at__isnull=True)]
    if rows:
        ready_at_hand()
    return rows


@router.get("/{bake_id}", response=BakeOut)
def open_bake(request: HttpRequest, bake_id: int) -> BakeOut:
    return _out(owned_or_refuse(Bake, request, bake_id))


@router.post("/{bake_id}/answer", response=AnswerOut)
def answer_bake(request: HttpRequest, bake_id: int, body: MomentIn) -> HttpResponse:
    """What is known of the bake at a moment, and what to do, best first. Already validated, so it is sent as it is."""
    row = owned_or_refuse(Bake, request, bake_id)
    events = told_of(row)
    text = answer_text(request, "live", question_at(row, events, body.at), keep_it=False)
    return HttpResponse(f'{{"told": {len(events)}, "live": {text}}}', content_type="application/json")


@router.delete("/{bake_id}", response={204: None})
def delete_bake(request: HttpRequest, bake_id: int, version: Version) -> Status[None]:
    soft_delete(Bake, request, bake_id, version, show=_line)
    return Status(204, None)


@router.post("/{bake_id}/restore", response=BakeLine)
def restore_bake(request: HttpRequest, bake_id: int) -> BakeLine:
    try:
        with transaction.atomic():
            return _line(restore(Bake, request, bake_id))
    except IntegrityError as error:
        raise InputError("", "Another bake is under way in that hearth; end it before this one comes back.") from error


def _stage(row: Bake) -> Stage:
    if row.ended_at is not None:
        return "ended"
    if row.pulled_at is not None:
        return "pulled"
    return "baking" if row.launched_at is not None else "heating"


def _fields(row: Bake) -> dict[str, Any]:
    return {
        "id": row.pk, "version": row.version, "name": row.name, "stage": _stage(row), "heat_on_at": row.heat_on_at,
        "pizzas": row.pizzas, "pizza": row.pizza, "together": row.together,
        "launched_at": row.launched_at, "pulled_at": row.pulled_at, "ended_at": row.ended_at,
    }  # fmt: skip


def _line(row: Bake) -> BakeLine:
    hearth, problem = readable("bake", lambda: row.said.names.hearth)
    return BakeLine(**_fields(row), hearth=hearth or "", problem=date_problem("bake", row.heat_on_at, row.launched_at, row.pulled_at, row.ended_at) or problem)


def _out(row: Bake) -> BakeOut:
    said, events = row.said, told_of(row)
    supper, _ = readable("supper", lambda: row.supper_then)
    gone = undone(events)
    return BakeOut(
        **_fields(row),
        hearth=said.names.hearth,
        names=said.names,
        ask=QUESTION.upgraded(row.ask),
        engine=row.engine,
        headline=supper.headline if supper is not None else None,
        happened=[HappenedOut(id=event.pk, kind=event.kind, at=event.at, payload=event.payload, undone=str(event.pk) in gone) for event in events],
    )
