"""A supper's times in minutes from now, and when hands are there."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.clock import each_night, minutes, moment, zone
from mattone_engine.days.supper import supper
from mattone_engine.days.tasks import Supper
from mattone_engine.errors import InputError

LONGEST_MIN = 9 * 24 * 60.0


# How much later than wished an offer may be.
LATEST_OFFER_MIN = 3 * 24 * 60.0


# Kinds of constraint, in the order in which their clash is told.
GROUPS = ("now", "sleep", "absence", "dough", "hands", "fixed")


@dataclass
class Frame:
    """Everything in minutes from now."""

    request: TimelineInput
    zero: datetime
    serve: float
    nights: list[tuple[float, float]]
    away: list[tuple[float, float]]
    fixed: dict[str, tuple[float, bool]]
    made: Supper
    shape_at: float

    def is_done(self, step: str) -> bool:
        """Whether the cook has done this step."""
        return step in self.fixed and self.fixed[step][1]

    def after_serve(self, what: str) -> float:
        """Minutes after the serving time of what hangs on it: the first shaping, the heating, else the table itself."""
        if what == "first_shape":
            return self.shape_at
        return next(at for task, at in self.made.bound if task.key == "heat") if what == "heat" else 0.0

    def local(self, at: float) -> str:
        """A moment by the local clock, with its offset."""
        return (self.zero + timedelta(minutes=round(at))).astimezone(zone(self.request.time_zone)).isoformat(timespec="minutes")


def frame_of(request: TimelineInput) -> Frame:
    """A supper in minutes from now. Raises InputError for times that no supper can have."""
    where = zone(request.time_zone)
    zero, serve_at = moment(request.now, where, "now"), moment(request.serve_at, where, "serve_at")
    serve = minutes(serve_at, zero)
    if serve <= 0:
        raise InputError("serve_at", "That is in the past; choose when the first pizza should be on the table from now on.")
    if serve > LONGEST_MIN:
        raise InputError("serve_at", "That is more than nine days away, and no dough waits so long. Plan it nearer to the day.")
    # Nights beyond the supper matter when a later one is offered.
    end = zero + timedelta(minutes=serve + LATEST_OFFER_MIN + 5 * 60)
    nights = [(minutes(a, zero), minutes(b, zero)) for a, b in each_night(request.sleep_from, request.sleep_to, where, zero, end)]
    away = []
    for i, absence in enumerate(request.absences):
        a, b = moment(absence.from_at, where, f"absences.{i}.from_at"), moment(absence.to_at, where, f"absences.{i}.to_at")
        if b <= a:
            raise InputError(f"absences.{i}.to_at", "You come back before you leave; exchange the two times.")
        away.append((minutes(a, zero), minutes(b, zero)))
    made = supper(request)
    known = {task.key for task in made.tasks}
    fixed = {}
    for i, one in enumerate(request.fixed):
        if one.step in known:
            fixed[one.step] = (minutes(moment(one.at, where, f"fixed.{i}.at"), zero), one.done)
    hands_on = [at for task, at in made.bound if task.key in ("shape_1", "top_1", "hob_1", "launch_1")]
    return Frame(request, zero, serve, nights, away, fixed, made, min(hands_on))


def open_spans(frame: Frame, groups: set[str], serve_free: float = 0.0) -> list[tuple[float, float, bool]]:
    """When hands are there, with whether it is night: what absences and nights leave of the time."""
    begin = 0.0 if "now" in groups else -LONGEST_MIN
    end = frame.serve + serve_free + 5 * 60.0
    spans = [(begin, end, False)]
    if "sleep" in groups:
        spans = [(a, b, False) for a, b in _without([(begin, end)], frame.nights)]
        if frame.request.may_wake:
            spans += [(max(begin, a), b, True) for a, b in frame.nights if b > begin and a < end]
    if "absence" in groups:
        spans = [(a, b, night) for s, e, night in spans for a, b in _without([(s, e)], frame.away)]
    return [(a, b, night) for a, b, night in spans if b - a >= 1.0]


def _without(spans: list[tuple[float, float]], holes: list[tuple[float, float]]) -> list[tuple[float, float]]:
    for low, high in holes:
        spans = [part for a, b in spans for part in ((a, min(b, low)), (max(a, high), b)) if part[1] - part[0] > 1e-9]
    return sorted(spans)
