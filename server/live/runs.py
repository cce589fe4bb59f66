"""Runs of a live instrument: its readings between two pauses."""

from __future__ import annotations

from datetime import timedelta

from kitchen.models import Instrument
from live.models import Reading

# A pause longer than this ends a run: the next readings are another preheat.
RUN_ENDS_AFTER = timedelta(minutes=20)


def run_of(instrument: Instrument) -> list[Reading]:
    """Readings since the last pause of 20 minutes, at most 2,000."""
    newest_first = list(Reading.objects.filter(instrument=instrument).order_by("-at")[:2000])
    run: list[Reading] = []
    for reading in newest_first:
        if run and run[-1].at - reading.at > RUN_ENDS_AFTER:
            break
        run.append(reading)
    return run[::-1]
