"""From what happened in a bake to the engine's journal: by the client's own times, whatever the order it was told in."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from mattone_engine.errors import InputError, first_input_error
from mattone_engine.live.journal import LONGEST_HEATING_S, Earlier, Journal, LiveInput
from mattone_engine.supper.lots import of_pizza
from mattone_engine.things.dough import PieceSize
from pydantic import ValidationError

from bakes.courses import Course, pizza_of, stages, standing
from bakes.models import Bake
from events.clocks import settled
from events.models import Event

# Of one bake so much is told; more is a device gone astray.
MOST_EVENTS = 500
# The longest a bake lasts, s.
LONGEST_BAKE_S = 5400.0


def told_of(bake: Bake) -> list[Event]:
    """Everything that was told of a bake and counts, by the client's times."""
    return settled(Event.objects.filter(owner_id=bake.owner_id, subject_id=bake.pk, kind__startswith="bake.", refused=""))


def question_at(bake: Bake, events: list[Event], at: datetime) -> LiveInput:
    """What the engine is asked about a moment; raises InputError, UnreadableError."""
    now = stages(events, bake.pizzas)
    whole = bake.question
    sizes = bake.sizes(whole)
    ask = of_pizza(whole, sizes, now.pizza)
    if ask.controls is None:
        raise InputError("bake", "This bake has no controls; start it again from a plan.")
    course = now.at_hand
    # What was pulled bakes no more.
    at = min(at, course.pulled_at) if course.pulled_at is not None else at
    since = course.launched_at if course.launched_at is not None and at >= course.launched_at else bake.heat_on_at
    now_s = min(max(0.0, (at - since).total_seconds()), LONGEST_BAKE_S if course.launched_at is not None else LONGEST_HEATING_S)
    told = standing(events)
    try:
        earlier = tuple(_earlier(bake, told, now.courses, i, sizes) for i in range(now.pizza - 1))
        journal = Journal.model_validate(journal_of(bake, told, now.courses, now.pizza, now_s))
        # A seed of its own: the same bake is always answered alike.
        return LiveInput(
            plan=ask, controls=ask.controls, journal=journal, now_s=now_s, seed=bake.pk % 2**31, earlier=earlier, together=bake.together
        )  # fmt: skip
    except ValidationError as error:
        raise first_input_error(error) from error


def _earlier(bake: Bake, told: list[Event], courses: tuple[Course, ...], i: int, sizes: tuple[PieceSize, ...]) -> Earlier:
    launched_at, pulled_at = courses[i].launched_at, courses[i].pulled_at
    assert launched_at is not None and pulled_at is not None
    # What was told of it after its pull says nothing of the bake.
    baked_s = min(LONGEST_BAKE_S, (pulled_at - launched_at).total_seconds())
    journal = Journal.model_validate(journal_of(bake, told, courses, i + 1, baked_s))
    return Earlier(journal=journal, pulled_s=_since_heat_s(bake, pulled_at), size=sizes[i] if i < len(sizes) else None)


def row_before(bake: Bake, events: list[Event], pizza: int) -> list[tuple[float, float]]:
    """Launch and pull of the pizzas of a bake before this one, s since heat on; empty where one of them is not told of whole."""
    courses = stages(events, bake.pizzas).courses[: pizza - 1]
    told = [(course.launched_at, course.pulled_at) for course in courses]
    if any(launched is None or pulled is None for launched, pulled in told):
        return []
    return [(_since_heat_s(bake, launched), _since_heat_s(bake, pulled)) for launched, pulled in told if launched and pulled]


def _since_heat_s(bake: Bake, at: datetime) -> float:
    return min(LONGEST_HEATING_S, max(0.0, (at - bake.heat_on_at).total_seconds()))


def journal_of(bake: Bake, told: list[Event], courses: tuple[Course, ...], pizza: int, now_s: float) -> dict[str, Any]:
    """One pizza's journal; what lies later than the moment asked about is not yet known then."""
    launched_at = courses[pizza - 1].launched_at
    # The deck was free for it from then on: what was read before was of another.
    free_at = courses[pizza - 2].pulled_at if pizza > 1 else None
    found: dict[str, list[dict[str, Any]]] = {name: [] for name in ("readings", "done", "skipped", "seen", "signs")}
    for event in told:
        payload = {key: value for key, value in event.payload.items() if key != "pizza"}
        since_heat_s = (event.at - bake.heat_on_at).total_seconds()
        is_its_own = (free_at is None or event.at > free_at) and (launched_at is None or event.at <= launched_at)
        if event.kind == "bake.read" and 0.0 <= since_heat_s <= LONGEST_HEATING_S and is_its_own:
            found["readings"].append({**payload, "since_heat_s": since_heat_s})
        if launched_at is None or pizza_of(event) != pizza:
            continue
        at_s = (event.at - launched_at).total_seconds()
        if event.kind == "bake.done" and -LONGEST_HEATING_S <= at_s <= now_s:
            found["done"].append({**payload, "at_s": max(-7200.0, at_s)})
        elif event.kind in LISTS and 0.0 <= at_s <= now_s:
            found[LISTS[event.kind]].append({**payload, "at_s": at_s})
    # Of what is told in great number the last counts.
    bounds = {"readings": 400, "done": 40, "skipped": 40, "seen": 100, "signs": 100}
    launched_s = None if launched_at is None else _since_heat_s(bake, launched_at)
    return {"launched_s": launched_s, **{name: rows[-bounds[name] :] for name, rows in found.items()}}


LISTS = {"bake.skipped": "skipped", "bake.seen": "seen", "bake.sign": "signs"}
