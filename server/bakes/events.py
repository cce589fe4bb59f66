"""What happens in a bake. Each is kept as it was told; the bake's own row only learns its stage from it."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from mattone_engine.errors import InputError, first_input_error
from mattone_engine.live.happened import refuse_impossible_here
from mattone_engine.live.journal import GoldenAfter, Look, SignKind
from mattone_engine.things import Event
from mattone_engine.things.bake import EventKind as Control
from mattone_engine.things.base import StrictModel
from pydantic import Field, ValidationError, model_validator

from accounts.ownership import Values
from bakes.courses import MOST_PIZZAS, stages
from bakes.journal import MOST_EVENTS, told_of
from bakes.models import Bake
from events.registry import EventKind, register


class OfPizza(StrictModel):
    """Which of the pizzas it is about, counted from 1."""

    pizza: Annotated[int, Field(ge=1, le=MOST_PIZZAS)] = 1


class ReadPayload(StrictModel):
    """The deck was read by an instrument, or by the seconds until a pinch of flour was golden."""

    deck_c: Annotated[float, Field(ge=-40, le=700)] | None = None
    golden_s: GoldenAfter | None = None
    by: Literal["infrared", "probe", "flour"] = "infrared"

    @model_validator(mode="after")
    def says_one(self) -> ReadPayload:
        if (self.deck_c is None) == (self.golden_s is None):
            raise ValueError("give the deck's temperature, or the seconds until a pinch of flour was golden.")
        return self


class DonePayload(OfPizza):
    """A control was given."""

    do: Control
    level: Annotated[int, Field(ge=1, le=8)] | None = None
    setpoint_c: Annotated[float, Field(ge=50, le=350)] | None = None
    power_kw: Annotated[float, Field(ge=0.2, le=4)] | None = None

    @model_validator(mode="after")
    def carries_its_value(self) -> DonePayload:
        for do, name in (("move", "level"), ("setpoint", "setpoint_c"), ("hob_on", "power_kw")):
            if self.do == do and getattr(self, name) is None:
                raise ValueError(f'a "{do}" needs its {name}; add it.')
        return self


class SkippedPayload(OfPizza):
    """A planned control is left out."""

    do: Control


class SignPayload(OfPizza):
    """Something else shows."""

    kind: SignKind


class SeenPayload(Look):
    """A look at it."""

    pizza: Annotated[int, Field(ge=1, le=MOST_PIZZAS)] = 1


class UndonePayload(StrictModel):
    """Something that was told is taken back."""

    event: Annotated[UUID, Field(strict=False)]


class NothingMore(StrictModel):
    """That it happened is all."""


def _staged(row: Bake, payload: StrictModel, at: datetime) -> Values:
    """The row's stages, from everything that was told of it, this with it."""
    events = told_of(row)
    if len(events) > MOST_EVENTS:
        raise InputError("", f"More than {MOST_EVENTS} things were told of this bake; end it, and start another.")
    found = stages(events, row.pizzas)
    if row.ended_at is not None and found.ended_at is None and _other_under_way(row):
        raise InputError("event", "Another bake is under way in that hearth by now; this one stays ended.")
    if isinstance(payload, OfPizza | SeenPayload) and payload.pizza > len(found.courses):
        raise InputError("payload.pizza", f"This bake has {len(found.courses)} pizzas; add one more first.")
    at_hand = found.at_hand
    return {"pizza": found.pizza, "launched_at": at_hand.launched_at, "pulled_at": at_hand.pulled_at, "ended_at": found.ended_at}


def _other_under_way(row: Bake) -> bool:
    return Bake.objects.filter(hearth=row.hearth, hearth__isnull=False, ended_at__isnull=True, deleted_at__isnull=True).exclude(pk=row.pk).exists()


def _given(row: Bake, payload: DonePayload, at: datetime) -> Values:
    """A control that this rig has not is refused where it is told."""
    try:
        refuse_impossible_here(row.question, Event.model_validate({**payload.model_dump(exclude={"pizza"}), "at_s": 60.0}))
    except ValidationError as error:
        raise first_input_error(error) from error
    return _in_order(row, payload, at)


def _in_order(row: Bake, payload: StrictModel, at: datetime) -> Values:
    if at < row.heat_on_at:
        raise InputError("at", "This is before the heat went on; set the clock of this device.")
    return _staged(row, payload, at)


KINDS: dict[str, type[StrictModel]] = {
    "bake.read": ReadPayload,
    "bake.launched": OfPizza,
    "bake.done": DonePayload,
    "bake.skipped": SkippedPayload,
    "bake.seen": SeenPayload,
    "bake.sign": SignPayload,
    "bake.pulled": OfPizza,
    "bake.more": NothingMore,
    "bake.ended": NothingMore,
}


def register_all() -> None:
    for key, payload in KINDS.items():
        register(EventKind(key, Bake, payload, _given if key == "bake.done" else _in_order))
    register(EventKind("bake.undone", Bake, UndonePayload, _staged))


register_all()
