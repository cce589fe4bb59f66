"""Events over HTTP: a batch of what happened, told as often as needed."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Annotated, Literal
from uuid import UUID

from django.db import IntegrityError, transaction
from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.things.base import JsonObject, StrictModel
from ninja import Router, Schema
from pydantic import AwareDatetime, Field, ValidationError

from accounts.ownership import NotYoursError, cook_id, owned_or_refuse, update_versioned
from documents.reading import UnreadableError
from events.models import Event
from events.registry import KINDS, EventKind

router = Router()

# A client's clock may run ahead by this much; what is older than a year did not just happen.
AHEAD = timedelta(minutes=10)
OLDEST = timedelta(days=366)
LONGEST_REFUSAL = 400


class TicksIn(StrictModel):
    """A clock that never goes back: which opened page's, and how far it had come, ms; below 0 for what happened before it was opened."""

    run: Annotated[UUID, Field(strict=False)]
    ms: Annotated[int, Field(ge=-(2**50), le=2**50)]


class EventIn(StrictModel):
    """id: made by the client, once for each thing that happened. at: by its clock on the wall, with offset. ticks: by its other clock."""

    id: Annotated[UUID, Field(strict=False)]
    kind: Annotated[str, Field(max_length=40)]
    subject_id: int
    at: Annotated[AwareDatetime, Field(strict=False)]
    payload: JsonObject = {}
    ticks: TicksIn | None = None


class EventsIn(StrictModel):
    events: Annotated[list[EventIn], Field(min_length=1, max_length=200)]


class TakenOut(Schema):
    """taken: it counts now. known: it was told before. refused: it changed nothing, and why."""

    id: UUID
    state: Literal["taken", "known", "refused"]
    message: str = ""


class EventsOut(Schema):
    events: list[TakenOut]


@router.post("", response=EventsOut)
def take_events(request: HttpRequest, body: EventsIn) -> EventsOut:
    """Each event counts by itself: one that is refused does not hold up the others."""
    return EventsOut(events=[_take(request, one) for one in body.events])


def _take(request: HttpRequest, told: EventIn) -> TakenOut:
    try:
        with transaction.atomic():
            # The row first: of two that tell the same at once, the second waits here and finds it known.
            refused = _refusal_before(told)
            _row(request, told, refused).save(force_insert=True)
            if not refused:
                _apply(request, told)
    except IntegrityError:
        return _known(request, told)
    except (InputError, NotYoursError, UnreadableError) as error:
        refused = error.message if isinstance(error, InputError) else str(error)
        Event.objects.bulk_create([_row(request, told, refused)], ignore_conflicts=True)
    return TakenOut(id=told.id, state="refused", message=refused) if refused else TakenOut(id=told.id, state="taken")


def _row(request: HttpRequest, told: EventIn, refused: str) -> Event:
    subject_id = told.subject_id if abs(told.subject_id) < 2**63 else 0
    ticks = told.ticks
    return Event(
        id=told.id, owner_id=cook_id(request), kind=told.kind, subject_id=subject_id, at=told.at, payload=told.payload, refused=refused[:LONGEST_REFUSAL],
        run=ticks.run if ticks else None, ticks_ms=ticks.ms if ticks else None,
    )  # fmt: skip


def _known(request: HttpRequest, told: EventIn) -> TakenOut:
    """It was told before; somebody else's id is nobody's business."""
    before = Event.objects.filter(pk=told.id, owner_id=cook_id(request)).first()
    if before is None or (before.kind, before.subject_id) != (told.kind, told.subject_id):
        return TakenOut(id=told.id, state="refused", message="This event's id is taken; make a new one for each thing that happens.")
    return TakenOut(id=told.id, state="refused", message=before.refused) if before.refused else TakenOut(id=told.id, state="known")


def _refusal_before(told: EventIn) -> str:
    now = timezone.now()
    if told.kind not in KINDS:
        return f"There is no event called {told.kind}; choose from {', '.join(sorted(KINDS))}."
    if told.at > now + AHEAD:
        return "This has not happened yet by the server's clock; set the clock of this device."
    if told.at < now - OLDEST:
        return "This is more than a year ago; set the clock of this device."
    return ""


def _apply(request: HttpRequest, told: EventIn) -> None:
    kind: EventKind = KINDS[told.kind]
    try:
        payload = kind.payload.model_validate(told.payload)
    except ValidationError as error:
        raise first_input_error(error) from error
    at: datetime = told.at
    update_versioned(owned_or_refuse(kind.model, request, told.subject_id, path="subject_id"), lambda row: kind.apply(row, payload, at), None)
