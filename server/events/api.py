"""Events over HTTP: a batch of what happened, sent as often as needed; each event is judged by itself."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Annotated, Any, Literal
from uuid import UUID

from django.db import IntegrityError, transaction
from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.things.base import JsonObject, StrictModel
from mattone_engine.things.moments import Moment
from ninja import Router, Schema
from pydantic import Field, ValidationError
from versions import page_differs

from accounts.limits import EVENTS_A_MINUTE
from accounts.ownership import NotYoursError, cook_id, owned_or_refuse, update_versioned
from accounts.rate import too_many
from documents.reading import UnreadableError
from events.models import Event
from events.registry import AFTER, KINDS, EventKind
from work.fair import BusyError

router = Router()

# A client's clock may run ahead by this much; what is older than a year did not just happen.
AHEAD = timedelta(minutes=10)
OLDEST = timedelta(days=366)
LONGEST_REFUSAL = 400
LONGEST_ID = 64


class TicksIn(StrictModel):
    """A clock that never goes back: which opened page's, and how far it had come, ms; below 0 for what happened before it was opened."""

    run: Annotated[UUID, Field(strict=False)]
    ms: Annotated[int, Field(ge=-(2**50), le=2**50)]


class EventIn(StrictModel):
    """id: made by the client, once for each thing that happened. at: by its clock on the wall, with offset. ticks: by its other clock."""

    id: Annotated[UUID, Field(strict=False)]
    kind: Annotated[str, Field(max_length=40)]
    subject_id: int
    at: Moment
    payload: JsonObject = {}
    ticks: TicksIn | None = None


class EventsIn(StrictModel):
    """Each should be an EventIn; one that is not is refused alone."""

    events: Annotated[list[Annotated[EventIn | Any, Field(union_mode="left_to_right")]], Field(min_length=1, max_length=200)]


class EventOutcome(Schema):
    """taken: it counts now. known: it was sent before. refused: it changed nothing, and why."""

    id: str
    state: Literal["taken", "known", "refused"]
    message: str = ""


class EventsOut(Schema):
    events: list[EventOutcome]


@router.post("", response=EventsOut)
def take_events(request: HttpRequest, body: EventsIn) -> EventsOut:
    """Each event counts by itself: one that is refused does not hold up the others."""
    if too_many(f"events {cook_id(request)}", len(body.events), EVENTS_A_MINUTE):
        raise BusyError(20, mine=True)
    found = [_judge(request, row) for row in body.events]
    taken = {row.kind for row, one in zip(body.events, found, strict=True) if one.state == "taken" and isinstance(row, EventIn)}
    for kind in sorted(taken & AFTER.keys()):
        for act in AFTER[kind]:
            act(request.user)
    return EventsOut(events=found)


def _judge(request: HttpRequest, row: EventIn | Any) -> EventOutcome:
    """What becomes of one event as it was sent."""
    try:
        event = EventIn.model_validate(row)
    except ValidationError as error:
        found = first_input_error(error)
        sent_id = row.get("id", "") if isinstance(row, dict) else ""
        message = f"{found.path}: {found.message}" if found.path else found.message
        if page_differs(request):
            message = f"Mattone is older or newer than your page. Reload the page. ({message})"
        return EventOutcome(id=plain_text(str(sent_id))[:LONGEST_ID], state="refused", message=plain_text(message)[:LONGEST_REFUSAL])
    if event.kind not in KINDS:
        # It is not stored: anybody could fill the table with names of their own.
        return EventOutcome(
            id=str(event.id),
            state="refused",
            message=f"This kind of entry ({event.kind}) is not known here: Mattone is older or newer than your page. Reload the page.",
        )
    return _take(request, event)


def plain_text(text: str) -> str:
    """Text that can be sent back: without halves of characters."""
    return text.encode("utf-8", "replace").decode()


def _take(request: HttpRequest, event: EventIn) -> EventOutcome:
    try:
        with transaction.atomic():
            # The row first: of two that send the same at once, the second waits here and finds it known.
            refused = _clock_refusal(event)
            _row(request, event, refused).save(force_insert=True)
            if not refused:
                _apply(request, event)
    except IntegrityError:
        return _known(request, event)
    except (InputError, NotYoursError, UnreadableError) as error:
        refused = error.message if isinstance(error, InputError) else str(error)
        Event.objects.bulk_create([_row(request, event, refused)], ignore_conflicts=True)
    return EventOutcome(id=str(event.id), state="refused", message=refused) if refused else EventOutcome(id=str(event.id), state="taken")


def _row(request: HttpRequest, event: EventIn, refused: str) -> Event:
    subject_id = event.subject_id if abs(event.subject_id) < 2**63 else 0
    ticks = event.ticks
    return Event(
        id=event.id, owner_id=cook_id(request), kind=event.kind, subject_id=subject_id, at=event.at, payload=event.payload,
        refused=refused[:LONGEST_REFUSAL], run=ticks.run if ticks else None, ticks_ms=ticks.ms if ticks else None,
    )  # fmt: skip


def _known(request: HttpRequest, event: EventIn) -> EventOutcome:
    """It was sent before; whose id it is otherwise is not revealed."""
    before = Event.objects.filter(pk=event.id, owner_id=cook_id(request)).first()
    if before is None or (before.kind, before.subject_id) != (event.kind, event.subject_id):
        return EventOutcome(id=str(event.id), state="refused", message="This event's id is taken; make a new one for each thing that happens.")
    return EventOutcome(id=str(event.id), state="refused" if before.refused else "known", message=before.refused)


def _clock_refusal(event: EventIn) -> str:
    """Why its time cannot be right; empty where it can."""
    now = timezone.now()
    if event.at > now + AHEAD:
        return "This has not happened yet by the server's clock; set the clock of this device."
    if event.at < now - OLDEST:
        return "This is more than a year ago; set the clock of this device."
    return ""


def _apply(request: HttpRequest, event: EventIn) -> None:
    kind: EventKind = KINDS[event.kind]
    try:
        payload = kind.payload.model_validate(event.payload)
    except ValidationError as error:
        raise first_input_error(error) from error
    at: datetime = event.at
    update_versioned(owned_or_refuse(kind.model, request, event.subject_id, path="subject_id"), lambda row: kind.apply(row, payload, at), None)
