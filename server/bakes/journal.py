"""From what happened in a bake to the engine's journal: by the client's own times, whatever the order it was told in."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from mattone_engine.errors import InputError, first_input_error
from mattone_engine.live.journal import LONGEST_HEATING_S, Journal, LiveInput
from pydantic import ValidationError

from bakes.models import Bake
from events.models import Event

# Of one bake so much is told; more is a device gone astray.
MOST_EVENTS = 500
# The longest a bake lasts, s.
LONGEST_BAKE_S = 5400.0


@dataclass(frozen=True)
class Times:
    """When a bake came to each of its stages."""

    launched_at: datetime | None
    pulled_at: datetime | None
    ended_at: datetime | None


def told_of(bake: Bake) -> list[Event]:
    """Everything that was told of a bake and counts, by the client's times."""
    return list(Event.objects.filter(owner_id=bake.owner_id, subject_id=bake.pk, kind__startswith="bake.", refused="").order_by("at", "id"))


def undone(events: Iterable[Event]) -> set[str]:
    """Ids of what was taken back."""
    return {str(event.payload.get("event", "")) for event in events if event.kind == "bake.undone"}


def standing(events: list[Event]) -> list[Event]:
    """What was told and not taken back."""
    gone = undone(events)
    return [event for event in events if event.kind != "bake.undone" and str(event.pk) not in gone]


def times(events: list[Event]) -> Times:
    """The stages: of two launches, pulls or ends the first counts."""

    def first(kind: str) -> datetime | None:
        return next((event.at for event in standing(events) if event.kind == kind), None)

    return Times(first("bake.launched"), first("bake.pulled"), first("bake.ended"))


def question_at(bake: Bake, events: list[Event], at: datetime) -> LiveInput:
    """What the engine is asked about a moment; raises InputError, UnreadableError."""
    ask, stages = bake.question, times(events)
    if ask.controls is None:
        raise InputError("bake", "This bake has no controls; start it again from a plan.")
    launched_at = stages.launched_at
    # What was pulled bakes no more.
    at = min(at, stages.pulled_at) if stages.pulled_at is not None else at
    since = launched_at if launched_at is not None and at >= launched_at else bake.heat_on_at
    now_s = min(max(0.0, (at - since).total_seconds()), LONGEST_BAKE_S if launched_at is not None else LONGEST_HEATING_S)
    try:
        journal = Journal.model_validate(_journal(bake, standing(events), launched_at, now_s))
        # A seed of its own: the same bake is always answered alike.
        return LiveInput(plan=ask, controls=ask.controls, journal=journal, now_s=now_s, seed=bake.pk % 2**31)
    except ValidationError as error:
        raise first_input_error(error) from error


def _journal(bake: Bake, events: list[Event], launched_at: datetime | None, now_s: float) -> dict[str, Any]:
    """The engine's journal; what lies later than the moment asked about is not yet known then."""
    found: dict[str, list[dict[str, Any]]] = {name: [] for name in ("readings", "done", "skipped", "seen", "signs")}
    for event in events:
        since_heat_s = (event.at - bake.heat_on_at).total_seconds()
        if event.kind == "bake.read" and 0.0 <= since_heat_s <= LONGEST_HEATING_S and (launched_at is None or event.at <= launched_at):
            found["readings"].append({**event.payload, "since_heat_s": since_heat_s})
        if launched_at is None:
            continue
        at_s = (event.at - launched_at).total_seconds()
        if event.kind == "bake.done" and -LONGEST_HEATING_S <= at_s <= now_s:
            found["done"].append({**event.payload, "at_s": max(-7200.0, at_s)})
        elif event.kind in LISTS and 0.0 <= at_s <= now_s:
            found[LISTS[event.kind]].append({**event.payload, "at_s": at_s})
    launched_s = None if launched_at is None else min(LONGEST_HEATING_S, max(0.0, (launched_at - bake.heat_on_at).total_seconds()))
    # Of what is told in great number the last counts.
    bounds = {"readings": 400, "done": 40, "skipped": 40, "seen": 100, "signs": 100}
    return {"launched_s": launched_s, **{name: rows[-bounds[name] :] for name, rows in found.items()}}


LISTS = {"bake.skipped": "skipped", "bake.seen": "seen", "bake.sign": "signs"}
