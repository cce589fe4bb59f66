"""The pizzas of a bake, one after another: when each was launched and pulled, whatever the order it was told in."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from events.models import Event

# No evening has more.
MOST_PIZZAS = 24


@dataclass(frozen=True)
class Course:
    """One pizza; None: not yet."""

    launched_at: datetime | None = None
    pulled_at: datetime | None = None


@dataclass(frozen=True)
class Stages:
    """Every pizza of a bake, which of them is at hand (counted from 1), and when the bake was ended."""

    courses: tuple[Course, ...]
    pizza: int
    ended_at: datetime | None

    @property
    def at_hand(self) -> Course:
        return self.courses[self.pizza - 1]


def undone(events: Iterable[Event]) -> set[str]:
    """Ids of what was taken back."""
    return {str(event.payload.get("event", "")) for event in events if event.kind == "bake.undone"}


def standing(events: list[Event]) -> list[Event]:
    """What was told and not taken back."""
    gone = undone(events)
    return [event for event in events if event.kind != "bake.undone" and str(event.pk) not in gone]


def pizza_of(event: Event) -> int:
    """Which pizza it was told of."""
    return int(event.payload.get("pizza", 1))


def stages(events: list[Event], planned: int) -> Stages:
    """Of two launches, pulls or ends the first counts; `planned` pizzas and those that were added.

    A pizza that nobody told of pulling was out when the next went in; none went in before the last was out.
    """
    told = standing(events)
    count = min(MOST_PIZZAS, planned + sum(event.kind == "bake.more" for event in told))

    def first(kind: str, pizza: int) -> datetime | None:
        return next((event.at for event in told if event.kind == kind and pizza_of(event) == pizza), None)

    courses: list[Course] = []
    out: datetime | None = None
    for pizza in range(1, count + 1):
        launched, pulled, after = first("bake.launched", pizza), first("bake.pulled", pizza), first("bake.launched", pizza + 1)
        # What is told of one that comes later waits for those before it.
        if launched is None or (courses and out is None):
            break
        launched = max(launched, out) if out is not None else launched
        out = min((at for at in (pulled, after if pizza < count else None) if at is not None), default=None)
        out = max(out, launched) if out is not None else None
        courses.append(Course(launched, out))
    courses += [Course()] * (count - len(courses))
    pulled_count = next((i for i, one in enumerate(courses) if one.pulled_at is None), count)
    ended = next((event.at for event in told if event.kind == "bake.ended"), None)
    return Stages(tuple(courses), min(count, pulled_count + 1), ended)
