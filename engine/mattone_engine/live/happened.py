"""The controls of a bake as they were given, with what of the plan is still to come."""

from __future__ import annotations

from collections import Counter

from mattone_engine.bake.from_controls import bake_of
from mattone_engine.live.journal import Journal, LiveInput
from mattone_engine.things import Event, SimulateInput

# What nobody waits for: it ends where the crust is done, not by a clock.
UNTOLD = ("door",)


def still_planned(planned: tuple[Event, ...], journal: Journal) -> list[Event]:
    """What of the plan was neither done nor skipped: the first of a kind that was done stands for the first that was planned."""
    gone = Counter(event.do for event in journal.done) + Counter(one.do for one in journal.skipped)
    left = []
    for event in sorted(planned, key=lambda e: e.at_s):
        if gone[event.do] > 0:
            gone[event.do] -= 1
        else:
            left.append(event)
    return left


def as_it_was(request: LiveInput) -> SimulateInput:
    """The bake as it was told so far and will go on by the plan; what is overdue is done now."""
    spec = bake_of(request.plan, request.controls)
    journal = request.journal
    if journal.launched_s is None:
        return spec
    ahead = [event.model_copy(update={"at_s": max(event.at_s, request.now_s)}) for event in still_planned(spec.events, journal) if event.at_s >= 0.0]
    # What was planned before the launch and nobody told of was done as planned.
    before = [event for event in still_planned(spec.events, journal) if event.at_s < 0.0]
    events = tuple(sorted((*before, *journal.done, *ahead), key=lambda e: (e.at_s, e.do)))
    return SimulateInput.model_validate({**dict(spec), "events": events, "preheat_min": min(180.0, journal.launched_s / 60.0)})
