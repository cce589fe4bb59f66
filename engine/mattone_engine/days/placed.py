"""A timeline as it is told: its steps, waits and spans, and how far each step may move."""

from __future__ import annotations

from datetime import datetime

from mattone_engine import ENGINE_VERSION
from mattone_engine.days.clock import minutes
from mattone_engine.days.frame import GROUPS, LONGEST_MIN, Frame, open_spans
from mattone_engine.days.oven import Oven, oven
from mattone_engine.days.supper import launches
from mattone_engine.days.tasks import Task
from mattone_engine.dough.ferment import FermentResult
from mattone_engine.things.base import StrictModel


class PlacedStep(StrictModel):
    """One step: when, how long, and between what it may be moved while the others stay (slack)."""

    key: str
    name: str
    lane: str
    note: str
    at: str
    ends: str
    minutes: float
    earliest: str
    latest: str
    flexible: bool
    fixed: bool
    done: bool
    at_night: bool


class PlacedWait(StrictModel):
    """What the dough does between two steps."""

    name: str
    stage: str
    place: str
    from_at: str
    to_at: str
    best_min: float
    minutes: float


class ShadedSpan(StrictModel):
    """A night or an absence."""

    kind: str
    from_at: str
    to_at: str


class Offer(StrictModel):
    """The nearest thing that is possible: what changes, and the input that makes it."""

    kind: str
    text: str
    changes: dict[str, str | bool | float | None]


class LaterStep(StrictModel):
    """What is done with pieces that left the rest: which, what, and when; null: whenever they are wanted."""

    name: str
    text: str
    at: str | None


class TimelineResult(StrictModel):
    """A timeline, or what clashes and what would do instead."""

    feasible: bool
    steps: list[PlacedStep]
    later: list[LaterStep] = []
    # The plan's card by the clock; null: no plan, or told before it was.
    oven: Oven | None = None
    waits: list[PlacedWait]
    shaded: list[ShadedSpan]
    clash: list[str]
    say: str
    # What a cook must know of these days before choosing them: of the dough, of a night that is none.
    minds: list[str] = []
    offers: list[Offer]
    yeast_pct: float
    rise: FermentResult
    serve_at: str
    engine: str


def shaded(frame: Frame) -> list[ShadedSpan]:
    """Nights and absences as spans of local time, as far as a timeline reaches."""
    shaded = [("night", span) for span in frame.nights] + [("away", span) for span in frame.away]
    until = frame.serve + 300.0
    return [ShadedSpan(kind=kind, from_at=frame.local(max(a, -60.0)), to_at=frame.local(b)) for kind, (a, b) in shaded if a < until]


def timeline_result(frame: Frame, placed: dict[str, float]) -> TimelineResult:
    """The timeline of tasks begun at `placed` (minutes from now, by key, and "serve")."""
    steps = [_step(frame, task, placed) for task in frame.made.tasks]
    serve = placed["serve"]
    for task, at in frame.made.bound:
        begins = serve + at
        steps.append(
            PlacedStep(
                key=task.key, name=task.name, lane=task.lane, note=task.note, at=frame.local(begins), ends=frame.local(begins + task.minutes),
                minutes=round(task.minutes, 1), earliest=frame.local(begins), latest=frame.local(begins), flexible=False, fixed=False, done=False,
                at_night=_in(begins, frame.nights),
            )
        )  # fmt: skip
    steps.sort(key=lambda step: step.at)
    waits = []
    for wait in frame.made.waits:
        if not wait.stage:
            continue
        begins = placed[wait.after] + frame.made.task(wait.after).minutes
        ends = placed[wait.before] if wait.before in placed else serve + frame.after_serve(wait.before)
        waits.append(
            PlacedWait(
                name=wait.name, stage=wait.stage, place=wait.place, from_at=frame.local(begins), to_at=frame.local(ends),
                best_min=round(wait.best), minutes=round(ends - begins),
            )
        )  # fmt: skip
    nights = sum(step.at_night for step in steps)
    first = next(step for step in steps if not step.done) if any(not s.done for s in steps) else steps[0]
    say = f"Begin with: {first.name.lower()}." + (f" {nights} step{'s' if nights > 1 else ''} at night." if nights else "")
    minds = _minds(frame, waits)
    return TimelineResult(
        feasible=True,
        steps=steps,
        later=_later(frame, placed),
        oven=oven(frame, serve),
        waits=waits,
        shaded=shaded(frame),
        clash=[],
        say=say,
        minds=minds,
        offers=[],
        yeast_pct=frame.made.rise.yeast_pct,
        rise=frame.made.rise,
        serve_at=frame.local(serve),
        engine=ENGINE_VERSION,
    )


def _minds(frame: Frame, waits: list[PlacedWait]) -> list[str]:
    """What Dough would say of these hours, whether an overnight dough has its night, whether the last ball waits too long."""
    request, rise = frame.request, frame.made.rise
    found = [] if rise.good else [rise.say]
    if request.programme == "overnight" and request.own_steps is None and not any(_crosses_night(frame, wait) for wait in waits if wait.stage == "bulk"):
        found.append("These hours lie in the day: nothing of it is overnight. Serve it earlier in the day, or take a shorter programme.")
    row_h = launches(request)[-1][0] / 60.0
    last = rise.windows[-1]
    by_lots = any(task.key.startswith("lot_") for task in frame.made.tasks)
    if row_h > 0.25 and not by_lots and last.word == "ripe" and last.too_far_h is not None and last.too_far_h < last.to_h + row_h:
        found.append(
            f"The last pizza is shaped {60 * row_h:.0f} min after the first, and its dough is too far by then: keep the last ones in the fridge meanwhile."
        )
    return found


def _crosses_night(frame: Frame, wait: PlacedWait) -> bool:
    """Whether most of a night lies in it."""
    low, high = (minutes(datetime.fromisoformat(at), frame.zero) for at in (wait.from_at, wait.to_at))
    return any(min(high, b) - max(low, a) > 0.5 * (b - a) for a, b in frame.nights)


def _later(frame: Frame, placed: dict[str, float]) -> list[LaterStep]:
    """The ways of the pieces that leave the rest when it is divided; out of a freezer they go when they are wanted."""
    divided = next((placed[key] + frame.made.task(key).minutes for key in ("ball", "pan") if key in placed), placed["serve"] + frame.shape_at)
    found = []
    for way in frame.request.ways:
        at: float | None = divided
        name = way.name or f"{way.count} of the pieces"
        for i, step in enumerate(way.steps):
            place = STAYS.get(step.place, "in another place")
            text = f"{place} for {_hours(step.hours)}" if step.place != "freezer" else "into the freezer, oiled and well wrapped; for a month at most"
            found.append(LaterStep(name=name, text=text, at=None if at is None else frame.local(at)))
            at = None if at is None or step.place == "freezer" else at + step.hours * 60.0
            if i == len(way.steps) - 1:
                found.append(LaterStep(name=name, text="ready to shape and bake", at=None if at is None else frame.local(at)))
    return found


STAYS = {"room": "in the room", "fridge": "in the fridge", "warm": "in a warm spot", "oven": "in the oven, only its light on"}


def _hours(hours: float) -> str:
    return f"{hours:.0f} h" if hours >= 1.0 else f"{hours * 60:.0f} min"


def _in(at: float, spans: list[tuple[float, float]]) -> bool:
    return any(a <= at < b for a, b in spans)


def _step(frame: Frame, task: Task, placed: dict[str, float]) -> PlacedStep:
    """A task where it was put, with how far it can move while all others stay."""
    at = placed[task.key]
    earliest, latest = slack(frame, task, placed)
    is_fixed, done = task.key in frame.fixed, frame.fixed.get(task.key, (0.0, False))[1]
    return PlacedStep(
        key=task.key, name=task.name, lane=task.lane, note=task.note, at=frame.local(at), ends=frame.local(at + task.minutes),
        minutes=round(task.minutes, 1), earliest=frame.local(earliest), latest=frame.local(latest), flexible=latest - earliest >= 10.0 and not done,
        fixed=is_fixed, done=done, at_night=_in(at, frame.nights),
    )  # fmt: skip


def slack(frame: Frame, task: Task, placed: dict[str, float]) -> tuple[float, float]:
    """The earliest and latest begin of one task, the others as they are; within the same open time."""
    at = placed[task.key]
    low, high = -LONGEST_MIN, frame.serve + 300.0
    for a, b, _ in open_spans(frame, set(GROUPS)):
        if a - 1e-6 <= at and at + task.minutes <= b + 1e-6:
            low, high = max(low, a), min(high, b - task.minutes)
    for wait in frame.made.waits:
        if wait.after == task.key:
            ends = placed[wait.before] if wait.before in placed else placed["serve"] + frame.after_serve(wait.before)
            low, high = max(low, ends - wait.most - task.minutes), min(high, ends - wait.least - task.minutes)
        elif wait.before == task.key:
            begins = placed[wait.after] + frame.made.task(wait.after).minutes
            low, high = max(low, begins + wait.least), min(high, begins + wait.most)
    if frame.request.hands == 1:
        for other in frame.made.tasks:
            if other.key == task.key:
                continue
            begins = placed[other.key]
            if begins >= at + task.minutes - 1e-6:
                high = min(high, begins - task.minutes)
            elif begins + other.minutes <= at + 1e-6:
                low = max(low, begins + other.minutes)
        if task.lane == "hands":
            high = min(high, placed["serve"] + frame.shape_at - task.minutes)
    return min(low, at), max(high, at)
