"""The controls of a bake as they were given, with what of the plan is still to come."""

from __future__ import annotations

import math
from collections import Counter

from mattone_engine.bake.from_controls import bake_of, turns_often
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import in_pairs
from mattone_engine.live.journal import Journal, LiveInput
from mattone_engine.things import Event, SimulateInput

# What is overdue is looked for at the next of these, s: hands need a moment, and the answers in between have the same bake before them.
HANDS_S = 30.0
# A step that is due so long and was not confirmed is asked about, s: until then hands are busy with it.
UNCONFIRMED_S = 20.0
# What can be done once; told twice, the first counts.
ONCE = ("add_topping", "add_cheese", "flip", "lift", "paper_out")


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
    """The bake as it was told so far and will go on by the plan; what is overdue is done within HANDS_S."""
    spec = planned(request)
    journal = request.journal
    if journal.launched_s is None:
        return spec
    soon_s = HANDS_S * math.ceil(request.now_s / HANDS_S + 1e-9)
    ahead = [
        event.model_copy(update={"at_s": event.at_s if event.at_s >= request.now_s or is_routine(request.plan, event) else soon_s})
        for event in still_planned(spec.events, journal)
        if event.at_s >= 0.0
    ]
    # What was planned before the launch and nobody told of was done as planned.
    before = [event for event in still_planned(spec.events, journal) if event.at_s < 0.0]
    events = tuple(sorted((*before, *_done(journal), *ahead), key=lambda e: (e.at_s, e.do)))
    return SimulateInput.model_validate({**dict(spec), "events": events, "preheat_min": min(180.0, journal.launched_s / 60.0)})


def is_routine(plan: PlanInput, event: Event) -> bool:
    """Whether it is one of the many turns beside a flame: taken as done at its second, and never asked about."""
    return event.do == "turn" and turns_often(plan)


def overdue(request: LiveInput) -> list[Event]:
    """Planned steps of this pizza that are due since UNCONFIRMED_S and of which nobody said whether they were done."""
    if request.journal.launched_s is None:
        return []
    due_s = request.now_s - UNCONFIRMED_S
    left = still_planned(planned(request).events, request.journal)
    return [event for event in left if 0.0 <= event.at_s <= due_s and not is_routine(request.plan, event)]


def as_if_done(request: LiveInput) -> SimulateInput | None:
    """The bake in which what is overdue was done at its planned second; None where nothing is."""
    unconfirmed = overdue(request)
    if not unconfirmed:
        return None
    journal = request.journal.model_copy(update={"done": (*request.journal.done, *unconfirmed)})
    return as_it_was(request.model_copy(update={"journal": journal}))


def planned(request: LiveInput) -> SimulateInput:
    """The bake as planned; two trays at once change their places half-way."""
    spec = bake_of(request.plan, request.controls)
    return spec if request.together == 1 else in_pairs(spec)


def _done(journal: Journal) -> list[Event]:
    """The controls that were given, each that can be given once only the first time."""
    found: list[Event] = []
    for event in sorted(journal.done, key=lambda e: e.at_s):
        if event.do not in ONCE or not any(other.do == event.do for other in found):
            found.append(event)
    return found


def refuse_impossible_here(request: PlanInput, event: Event) -> None:
    """Raise ValueError where this rig has no such control."""
    if request.controls is not None:
        SimulateInput.model_validate({**dict(bake_of(request, request.controls)), "events": (event,)})
