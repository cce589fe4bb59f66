"""When things happened, where a device's clock on the wall was set back between them: its other clock tells."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from datetime import timedelta
from uuid import UUID

from events.models import Event

# The two clocks of a device part by so much without anybody's touching them, ms.
PART_MS = 2000.0


def settled(events: Iterable[Event]) -> list[Event]:
    """The events by their times, each `at` as it follows from both clocks of the page that told it. Nothing is saved.

    The wall clock less the ticks only grows while nobody touches it: ticks stand still while a device sleeps. Where it falls, the clock
    was set back, as a clock is that ran ahead and was put right: what was told before is moved back by as much.
    """
    found = list(events)
    runs: dict[UUID, list[Event]] = defaultdict(list)
    for event in found:
        if event.run is not None and event.ticks_ms is not None:
            runs[event.run].append(event)
    for told in runs.values():
        _set_back(sorted(told, key=lambda one: (one.ticks_ms or 0, str(one.pk))))
    return sorted(found, key=lambda one: (one.at, str(one.pk)))


def _set_back(told: list[Event]) -> None:
    least = float("inf")
    for event in reversed(told):
        apart_ms = event.at.timestamp() * 1000.0 - (event.ticks_ms or 0)
        if apart_ms > least + PART_MS:
            event.at -= timedelta(milliseconds=apart_ms - least)
        least = min(least, apart_ms)
