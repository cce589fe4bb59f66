"""The days before a supper: when each step begins, or what clashes and what would do instead."""

from __future__ import annotations

from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.clash import impossible
from mattone_engine.days.frame import GROUPS, frame_of
from mattone_engine.days.placed import TimelineResult, timeline_result
from mattone_engine.days.placing import solve


def timeline(request: TimelineInput) -> TimelineResult:
    """The days before, or why not and what instead. Raises InputError for what is no supper at all."""
    frame = frame_of(request)
    placed = solve(frame, set(GROUPS))
    if placed is None:
        return impossible(frame)
    return timeline_result(frame, placed)
