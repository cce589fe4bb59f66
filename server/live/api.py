"""Live instruments over HTTP: tokens for devices, the door their readings come in by, what was read."""

from __future__ import annotations

import random
from datetime import UTC, datetime, timedelta
from typing import Annotated

from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel
from mattone_engine.things.moments import Moment
from ninja import Router, Schema, Status
from ninja.security import HttpBearer
from pydantic import Field, model_validator

from accounts.ownership import cook_id, owned_or_refuse
from accounts.rate import too_many
from kitchen.models import Hearth, Instrument
from live.listener import tell
from live.models import STAND_IN, DeviceToken, Reading, hashed, lasts_until, new_secret
from live.runs import run_of
from work.fair import BusyError

router = Router()
ingest_router = Router()

MOST_TOKENS = 10
# Readings one device may send a minute; a reading a second is twenty times what an oven needs.
MOST_A_MINUTE = 1200
# Readings older than this are let go: what they taught is in the calibrations.
KEPT_FOR = timedelta(days=120)
PRUNE_ONE_IN = 100
# A device's clock may run ahead by this much; what is older than a month is not live any more.
AHEAD = timedelta(minutes=10)
OLDEST = timedelta(days=31)

Celsius = Annotated[float, Field(ge=-60, le=800)]


class TokenIn(StrictModel):
    instrument_id: int
    hearth_id: int | None = None


class TokenOut(Schema):
    """hint: how the secret begins."""

    id: int
    instrument_id: int
    hearth_id: int | None
    hint: str
    created_at: datetime
    last_used_at: datetime | None
    expires_at: datetime


class NewTokenOut(TokenOut):
    """The secret is told this once."""

    secret: str


class ReadingIn(StrictModel):
    """Temperatures of one moment, with its time zone."""

    at: Moment
    deck_c: Celsius | None = None
    air_c: Celsius | None = None

    @model_validator(mode="after")
    def says_something(self) -> ReadingIn:
        if self.deck_c is None and self.air_c is None:
            raise ValueError("a reading needs the deck's or the air's temperature, or both.")
        return self


class BatchIn(StrictModel):
    readings: Annotated[list[ReadingIn], Field(min_length=1, max_length=500)]


class BatchOut(Schema):
    """stored are new, known were here already."""

    stored: int
    known: int


class ReadingOut(Schema):
    at: datetime
    deck_c: float | None
    air_c: float | None


class RunOut(Schema):
    """The readings of the newest run, oldest first; a run ends at a pause of 20 minutes."""

    instrument_id: int
    readings: list[ReadingOut]


@router.get("/tokens", response=list[TokenOut])
def list_tokens(request: HttpRequest) -> list[DeviceToken]:
    return list(DeviceToken.objects.for_cook(request))


@router.post("/tokens", response={201: NewTokenOut})
def make_token(request: HttpRequest, body: TokenIn) -> Status[NewTokenOut]:
    """A token for a device of this kitchen. Its secret is in this answer and nowhere else."""
    instrument = owned_or_refuse(Instrument, request, body.instrument_id, path="instrument_id")
    if instrument.kind != "wireless":
        raise InputError("instrument_id", f"The {instrument.name} does not send readings by itself; only a wireless thermometer does.")
    hearth = owned_or_refuse(Hearth, request, body.hearth_id, path="hearth_id") if body.hearth_id is not None else None
    if DeviceToken.objects.for_cook(request).count() >= MOST_TOKENS:
        raise InputError("", f"There are {MOST_TOKENS} tokens already; revoke one that is not used any more.")
    secret = new_secret()
    made = DeviceToken.objects.create(owner_id=cook_id(request), instrument=instrument, hearth=hearth, secret_hash=hashed(secret), hint=secret[:8])
    return Status(201, NewTokenOut(**TokenOut.from_orm(made).model_dump(), secret=secret))


@router.delete("/tokens/{token_id}", response={204: None})
def revoke_token(request: HttpRequest, token_id: int) -> Status[None]:
    """From now on the device is turned away. It cannot be taken back; make a new token instead."""
    owned_or_refuse(DeviceToken, request, token_id).delete()
    return Status(204, None)


@router.get("/instruments/{instrument_id}/run", response=RunOut)
def newest_run(request: HttpRequest, instrument_id: int) -> RunOut:
    instrument = owned_or_refuse(Instrument, request, instrument_id)
    return RunOut(instrument_id=instrument.pk, readings=[ReadingOut.from_orm(row) for row in run_of(instrument)])


class DeviceAuth(HttpBearer):
    """A device proves itself by its secret alone; no cookie, so no forged request."""

    def authenticate(self, request: HttpRequest, token: str) -> DeviceToken | None:
        if len(token) > 200:
            return None
        found: DeviceToken | None = DeviceToken.objects.select_related("instrument").filter(secret_hash=hashed(token), deleted_at__isnull=True).first()
        if found is None or found.instrument.deleted_at is not None or found.expires_at < timezone.now():
            return None
        return found


@ingest_router.post("/readings", response=BatchOut, auth=DeviceAuth())
def take_readings(request: HttpRequest, body: BatchIn) -> BatchOut:
    """A device's batch. May be sent again, late and out of order: each moment is kept once, as first told."""
    token: DeviceToken = request.auth  # type: ignore[attr-defined]
    now = timezone.now()
    if too_many(f"readings {token.pk}", len(body.readings), MOST_A_MINUTE):
        raise BusyError(60, mine=True)
    for i, reading in enumerate(body.readings):
        if reading.at > now + AHEAD:
            raise InputError(f"readings.{i}.at", f"{reading.at.isoformat()} has not been yet; set the device's clock, and send the time with its zone.")
        if reading.at < now - OLDEST:
            raise InputError(f"readings.{i}.at", "This is more than a month ago; set the device's clock.")
    moments = {reading.at.astimezone(UTC): reading for reading in reversed(body.readings)}
    with transaction.atomic():
        known = set(Reading.objects.filter(instrument=token.instrument, at__in=list(moments)).values_list("at", flat=True))
        new = [
            Reading(instrument=token.instrument, at=at, deck_c=r.deck_c, air_c=r.air_c, stand_in=token.hint == STAND_IN)
            for at, r in moments.items()
            if at not in known
        ]
        Reading.objects.bulk_create(new, ignore_conflicts=True)
        DeviceToken.objects.filter(pk=token.pk).update(last_used_at=now, expires_at=lasts_until())
        if new:
            tell(f"readings {token.instrument_id}")
    if random.randrange(PRUNE_ONE_IN) == 0:
        prune_readings(now)
    return BatchOut(stored=len(new), known=len(body.readings) - len(new))


def prune_readings(now: datetime) -> int:
    """Let go of what is older than it is kept; how many went."""
    return Reading.objects.filter(at__lt=now - KEPT_FOR).delete()[0]
