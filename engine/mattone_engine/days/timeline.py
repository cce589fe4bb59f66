"""The days before a supper as a small mixed-integer programme (HiGHS, by scipy.optimize.milp).

Unknowns are the begins of the tasks, in minutes from now; a binary for each task and each time
somebody is awake and there says which of them it lies in, and one for each pair of tasks that one
pair of hands cannot do at once says which comes first.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import csr_array

from mattone_engine import ENGINE_VERSION
from mattone_engine.days.clock import each_night, minutes, moment, zone
from mattone_engine.days.supper import Supper, Task, TimelineInput, Wait, programme_of, programmes, supper
from mattone_engine.dough.ferment import FermentResult
from mattone_engine.errors import InputError
from mattone_engine.things.base import Thing

LONGEST_MIN = 9 * 24 * 60.0
NIGHT_COST = 400.0
# How much later than wished an offer may be.
LATEST_OFFER_MIN = 3 * 24 * 60.0
# Kinds of constraint, in the order in which their clash is told.
GROUPS = ("now", "sleep", "absence", "dough", "hands", "fixed")
GROUP_WORDS = {
    "now": "the time that is left",
    "sleep": "the night",
    "absence": "your absence",
    "dough": "the hours the dough needs",
    "hands": "one pair of hands",
    "fixed": "what you pinned or did",
}


class PlacedStep(Thing):
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


class PlacedWait(Thing):
    """What the dough does between two steps."""

    name: str
    stage: str
    place: str
    from_at: str
    to_at: str
    best_min: float
    minutes: float


class ShadedSpan(Thing):
    """A night or an absence."""

    kind: str
    from_at: str
    to_at: str


class Offer(Thing):
    """The nearest thing that is possible: what changes, and the input that makes it."""

    kind: str
    text: str
    changes: dict[str, str | bool | float | None]


class TimelineResult(Thing):
    """A timeline, or what clashes and what would do instead."""

    feasible: bool
    steps: list[PlacedStep]
    waits: list[PlacedWait]
    shaded: list[ShadedSpan]
    clash: list[str]
    say: str
    offers: list[Offer]
    yeast_pct: float
    rise: FermentResult
    serve_at: str
    engine: str


@dataclass
class _Frame:
    """Everything in minutes from now."""

    ask: TimelineInput
    zero: datetime
    serve: float
    nights: list[tuple[float, float]]
    away: list[tuple[float, float]]
    fixed: dict[str, tuple[float, bool]]
    made: Supper
    shape_at: float

    def is_done(self, step: str) -> bool:
        return step in self.fixed and self.fixed[step][1]

    def local(self, at: float) -> str:
        """A moment by the local clock, with its offset."""
        return (self.zero + timedelta(minutes=round(at))).astimezone(zone(self.ask.time_zone)).isoformat(timespec="minutes")


def timeline(ask: TimelineInput) -> TimelineResult:
    """The days before, or why not and what instead. Raises InputError for what is no supper at all."""
    frame = _frame(ask)
    placed = _solve(frame, set(GROUPS))
    if placed is None:
        return _impossible(frame)
    return _told(frame, placed)


def _frame(ask: TimelineInput) -> _Frame:
    where = zone(ask.time_zone)
    zero, serve_at = moment(ask.now, where, "now"), moment(ask.serve_at, where, "serve_at")
    serve = minutes(serve_at, zero)
    if serve <= 0:
        raise InputError("serve_at", "That is in the past; choose when the first pizza should be on the table from now on.")
    if serve > LONGEST_MIN:
        raise InputError("serve_at", "That is more than nine days away, and no dough waits so long. Plan it nearer to the day.")
    # Nights beyond the supper matter when a later one is offered.
    end = zero + timedelta(minutes=serve + LATEST_OFFER_MIN + 5 * 60)
    nights = [(minutes(a, zero), minutes(b, zero)) for a, b in each_night(ask.sleep_from, ask.sleep_to, where, zero, end)]
    away = []
    for i, absence in enumerate(ask.absences):
        a, b = moment(absence.from_at, where, f"absences.{i}.from_at"), moment(absence.to_at, where, f"absences.{i}.to_at")
        if b <= a:
            raise InputError(f"absences.{i}.to_at", "You come back before you leave; exchange the two times.")
        away.append((minutes(a, zero), minutes(b, zero)))
    made = supper(ask)
    known = {task.key for task in made.tasks}
    fixed = {}
    for i, one in enumerate(ask.fixed):
        if one.step in known:
            fixed[one.step] = (minutes(moment(one.at, where, f"fixed.{i}.at"), zero), one.done)
    shapes = [at for task, at in made.bound if task.key in ("shape_1", "launch_1")]
    return _Frame(ask, zero, serve, nights, away, fixed, made, min(shapes))


@dataclass
class _Rows:
    """Linear rows low <= A x <= high, gathered."""

    entries: list[tuple[int, int, float]] = field(default_factory=list)
    low: list[float] = field(default_factory=list)
    high: list[float] = field(default_factory=list)

    def add(self, terms: dict[int, float], low: float, high: float) -> None:
        row = len(self.low)
        self.entries += [(row, column, value) for column, value in terms.items()]
        self.low.append(low)
        self.high.append(high)


def open_spans(frame: _Frame, groups: set[str], serve_free: float = 0.0) -> list[tuple[float, float, bool]]:
    """When hands are there, with whether it is night: what absences and nights leave of the time."""
    begin = 0.0 if "now" in groups else -LONGEST_MIN
    end = frame.serve + serve_free + 5 * 60.0
    spans = [(begin, end, False)]
    if "sleep" in groups:
        spans = [(a, b, False) for a, b in _without([(begin, end)], frame.nights)]
        if frame.ask.may_wake:
            spans += [(max(begin, a), b, True) for a, b in frame.nights if b > begin and a < end]
    if "absence" in groups:
        spans = [(a, b, night) for s, e, night in spans for a, b in _without([(s, e)], frame.away)]
    return [(a, b, night) for a, b, night in spans if b - a >= 1.0]


def _without(spans: list[tuple[float, float]], holes: list[tuple[float, float]]) -> list[tuple[float, float]]:
    for low, high in holes:
        spans = [part for a, b in spans for part in ((a, min(b, low)), (max(a, high), b)) if part[1] - part[0] > 1e-9]
    return sorted(spans)


def _solve(frame: _Frame, groups: set[str], *, serve_free: float = 0.0, earlier: float = 0.0) -> dict[str, float] | None:
    """Begins of all tasks, and "serve"; None when there is no way. It may be later by serve_free minutes, or earlier by so many."""
    tasks = list(frame.made.tasks)
    index = {task.key: i for i, task in enumerate(tasks)}
    n = len(tasks)
    serve_column = n
    columns = n + 1
    cost = [0.0] * columns
    integrality = [0] * columns
    low = [-2 * LONGEST_MIN] * n + [frame.serve - earlier]
    high = [frame.serve + serve_free + 300.0] * n + [frame.serve + serve_free]
    # Only a serving time that may move is paid for: a constant would swallow the solver's gap.
    cost[serve_column] = 2.0 if serve_free > 0 else -2.0 if earlier > 0 else 0.0
    rows = _Rows()
    big = 3 * LONGEST_MIN + frame.serve + serve_free

    def column(cost_: float, low_: float, high_: float, whole: int) -> int:
        nonlocal columns
        cost.append(cost_)
        low.append(low_)
        high.append(high_)
        integrality.append(whole)
        columns += 1
        return columns - 1

    spans = open_spans(frame, groups, serve_free)
    if not spans:
        return None
    for task in tasks:
        i = index[task.key]
        done = frame.is_done(task.key)
        if task.key in frame.fixed and "fixed" in groups:
            low[i] = high[i] = frame.fixed[task.key][0]
        if done:
            # What is done is past, whoever slept then.
            low[i] = high[i] = frame.fixed[task.key][0]
            continue
        _within_one(spans, i, 0.0, task.minutes, rows, column, big)
    for wait in frame.made.waits:
        if frame.is_done(wait.after) and frame.is_done(wait.before):
            continue
        _add_wait(frame, wait, index, serve_column, rows, column, groups)
    _serving(frame, spans, serve_column, rows, column, big)
    if "hands" in groups and frame.ask.hands == 1:
        _one_pair_of_hands(frame, tasks, index, serve_column, rows, column, big)
    entries = np.array(rows.entries)
    shape = (len(rows.low), columns)
    matrix = csr_array((entries[:, 2], (entries[:, 0].astype(int), entries[:, 1].astype(int))), shape=shape)
    gap = 1e-3 if serve_free + earlier > 0 else 1e-2
    answer = milp(
        c=np.array(cost), constraints=LinearConstraint(matrix, np.array(rows.low), np.array(rows.high)),
        integrality=np.array(integrality), bounds=Bounds(np.array(low), np.array(high)), options={"mip_rel_gap": gap, "time_limit": 4.0},
    )  # fmt: skip
    if answer.x is None:
        return None
    return {**{task.key: float(answer.x[index[task.key]]) for task in tasks}, "serve": float(answer.x[serve_column])}


def _within_one(spans: list[tuple[float, float, bool]], begin: int, after: float, lasts: float, rows: _Rows, column, big: float) -> None:  # type: ignore[no-untyped-def]
    """What begins `after` minutes after the unknown `begin` and lasts so long lies in one of the spans; a night costs."""
    inside = [column(NIGHT_COST if night else 0.0, 0, 1, 1) for _, _, night in spans]
    rows.add(dict.fromkeys(inside, 1.0), 1.0, 1.0)
    for z, (a, b, _) in zip(inside, spans, strict=True):
        rows.add({begin: 1.0, z: -big}, a - after - big, np.inf)
        rows.add({begin: 1.0, z: big}, -np.inf, b - after - lasts + big)


def _add_wait(frame, wait: Wait, index, serve_column: int, rows: _Rows, column, groups: set[str]) -> None:  # type: ignore[no-untyped-def]
    """least <= gap <= most, and a cost for each hour off the best."""
    after = frame.made.task(wait.after)
    terms = {index[wait.after]: -1.0}
    offset = -after.minutes
    if wait.before in index:
        terms[index[wait.before]] = 1.0
    else:
        terms[serve_column] = 1.0
        offset += frame.shape_at if wait.before == "first_shape" else 0.0
    binding = "dough" in groups or not wait.stage
    least, most = (wait.least, wait.most) if binding else (0.0, LONGEST_MIN)
    rows.add(terms, least - offset, most - offset)
    over, under = column(wait.weight / 60.0, 0.0, np.inf, 0), column(wait.weight / 60.0, 0.0, np.inf, 0)
    rows.add({**terms, over: -1.0, under: 1.0}, wait.best - offset, wait.best - offset)


def _serving(frame: _Frame, spans: list[tuple[float, float, bool]], serve_column: int, rows: _Rows, column, big: float) -> None:  # type: ignore[no-untyped-def]
    """Heating, and shaping to the last pizza, in times when somebody is there."""
    heats = [(at, task.minutes) for task, at in frame.made.bound if task.key == "heat"]
    block = [(at, at + task.minutes) for task, at in frame.made.bound if task.key != "heat" and task.lane != "table"]
    together = [*heats, (min(a for a, _ in block), max(b for _, b in block) - min(a for a, _ in block))]
    for at, lasts in together:
        _within_one(spans, serve_column, at, lasts, rows, column, big)


def _one_pair_of_hands(frame: _Frame, tasks: list[Task], index, serve_column: int, rows: _Rows, column, big: float) -> None:  # type: ignore[no-untyped-def]
    """No two tasks at once, for pairs whose order is not given by a wait."""
    ordered = _in_order(frame.made.waits)
    open_tasks = [t for t in tasks if not frame.is_done(t.key)]
    for i, one in enumerate(open_tasks):
        for other in open_tasks[i + 1 :]:
            if (one.key, other.key) in ordered or (other.key, one.key) in ordered:
                continue
            first = column(0.0, 0, 1, 1)
            a, b = index[one.key], index[other.key]
            rows.add({b: 1.0, a: -1.0, first: -big}, one.minutes - big, np.inf)
            rows.add({a: 1.0, b: -1.0, first: big}, other.minutes, np.inf)
        # Shaping and baking take both hands until the last is out: all else is done before.
        if one.lane == "hands":
            rows.add({serve_column: 1.0, index[one.key]: -1.0}, one.minutes - frame.shape_at, np.inf)


def _in_order(waits: tuple[Wait, ...]) -> set[tuple[str, str]]:
    """Pairs of tasks whose order the waits give, one after another."""
    ordered = {(w.after, w.before) for w in waits}
    while True:
        further = {(a, d) for a, b in ordered for c, d in ordered if b == c} - ordered
        if not further:
            return ordered
        ordered |= further


def _impossible(frame: _Frame) -> TimelineResult:
    """The least set of kinds of constraint that clash, and what is possible instead."""
    clash = least_clash(frame)
    offers = _offers(frame, clash)
    words = " and ".join(GROUP_WORDS[group] for group in clash) or "the times"
    first = "The dough cannot be at its best by then" if "dough" in clash else "It cannot be done by then"
    say = f"{first}: {words} " + ("clash." if len(clash) > 1 else "will not allow it.")
    return TimelineResult(
        feasible=False,
        steps=[],
        waits=[],
        shaded=_shaded(frame),
        clash=[GROUP_WORDS[group] for group in clash],
        say=say,
        offers=offers,
        yeast_pct=frame.made.rise.yeast_pct,
        rise=frame.made.rise,
        serve_at=frame.local(frame.serve),
        engine=ENGINE_VERSION,
    )


def least_clash(frame: _Frame) -> list[str]:
    """A set of groups that cannot be met together, and could without any one of them (deletion filter)."""
    kept = [g for g in GROUPS if g != "absence" or frame.away]
    kept = [g for g in kept if g != "fixed" or frame.fixed]
    for group in list(kept):
        fewer = [g for g in kept if g != group]
        if _solve(frame, set(fewer)) is None:
            kept = fewer
    return kept


def _offers(frame: _Frame, clash: list[str]) -> list[Offer]:
    """The nearest three: another programme for the same time, warmth, a waking, or the same a little later."""
    ask = frame.ask
    found: list[tuple[float, Offer]] = []

    def tried(changes: dict[str, str | bool | float | None], kind: str, text: str, cost: float) -> None:
        try:
            if _solve(_frame(ask.model_copy(update=changes)), set(GROUPS)) is not None:
                found.append((cost, Offer(kind=kind, text=text, changes=changes)))
        except InputError:
            return

    here = programme_of(ask).hours
    # What is mixed keeps its dose; what is not can be dosed anew.
    mixed = any(one.step == "mix" and one.done for one in ask.fixed)
    dose: dict[str, str | bool | float | None] = {} if mixed else {"yeast_pct": None}
    for key, programme in programmes().items():
        if key != ask.programme or ask.own_steps is not None:
            cost = 1.0 + abs(programme.hours - here) / 24.0
            kind = "same-day" if key == "same_day" else "programme"
            text = programme.about if key == "same_day" else f"{programme.name}: {programme.about}"
            tried({"programme": key, "own_steps": None, "in_warmth": False, **dose}, kind, text, cost)
    if not ask.in_warmth:
        tried({"in_warmth": True, **dose}, "warmer", f"the same, risen in a warm spot at {{{ask.warm_c:g} C}}", 0.8)
    if not mixed:
        quick: dict[str, str | bool | float | None] = {"programme": "same_day", "own_steps": None, "in_warmth": True, "yeast_pct": 1.0}
        tried(quick, "more yeast", "same day with 1 % yeast in a warm spot", 2.6)
    if not ask.may_wake and "sleep" in clash:
        tried({"may_wake": True}, "night", "the same, getting up in the night", 3.0)
    later = _solve(frame, set(GROUPS), serve_free=LATEST_OFFER_MIN)
    if later is not None:
        hours = (later["serve"] - frame.serve) / 60.0
        at, text = _served(frame, later["serve"], before=False)
        tried({"serve_at": at}, "later", text, 0.5 + hours / 6.0)
    # A dough that is under way does not wait: eaten sooner it is right, if need be with a waking.
    for wake in sorted({ask.may_wake, True}) if mixed and frame.serve > 60.0 else []:
        sooner = _solve(replace(frame, ask=ask.model_copy(update={"may_wake": wake})), set(GROUPS), earlier=frame.serve - 30.0)
        if sooner is None:
            continue
        hours = (frame.serve - sooner["serve"]) / 60.0
        at, text = _served(frame, sooner["serve"], before=True)
        text += ", getting up in the night for it" if wake and not ask.may_wake else ""
        tried({"serve_at": at, "may_wake": wake}, "earlier", text, 0.5 + hours / 24.0)
        break
    found.sort(key=lambda item: item[0])
    # Two of one kind at most: three programmes leave the cook no choice of what to give up.
    chosen: list[Offer] = []
    for _, offer in found:
        if sum(one.kind == offer.kind for one in chosen) < 2 and len(chosen) < 3:
            chosen.append(offer)
    return chosen


def _served(frame: _Frame, minute: float, *, before: bool) -> tuple[str, str]:
    """A serving time as people say it, a quarter of an hour with a minute to spare: for the input, and in words."""
    at = (frame.zero + timedelta(minutes=minute)).replace(microsecond=0)
    spare = timedelta(minutes=-1 if before else 1)
    over = ((at + spare).minute * 60 + at.second) % 900
    at = (at + spare + timedelta(seconds=-over if before else (900 - over) % 900)).astimezone(zone(frame.ask.time_zone))
    return at.isoformat(timespec="minutes"), f"the same, first pizza {at:%A} at {at:%H:%M}"


def _shaded(frame: _Frame) -> list[ShadedSpan]:
    shaded = [("night", span) for span in frame.nights] + [("away", span) for span in frame.away]
    until = frame.serve + 300.0
    return [ShadedSpan(kind=kind, from_at=frame.local(max(a, -60.0)), to_at=frame.local(b)) for kind, (a, b) in shaded if a < until]


def _told(frame: _Frame, placed: dict[str, float]) -> TimelineResult:
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
        ends = placed[wait.before] if wait.before in placed else serve + frame.shape_at
        waits.append(
            PlacedWait(
                name=wait.name, stage=wait.stage, place=wait.place, from_at=frame.local(begins), to_at=frame.local(ends),
                best_min=round(wait.best), minutes=round(ends - begins),
            )
        )  # fmt: skip
    nights = sum(step.at_night for step in steps)
    first = next(step for step in steps if not step.done) if any(not s.done for s in steps) else steps[0]
    say = f"Begin with: {first.name.lower()}." + (f" {nights} step{'s' if nights > 1 else ''} at night." if nights else "")
    return TimelineResult(
        feasible=True,
        steps=steps,
        waits=waits,
        shaded=_shaded(frame),
        clash=[],
        say=say,
        offers=[],
        yeast_pct=frame.made.rise.yeast_pct,
        rise=frame.made.rise,
        serve_at=frame.local(serve),
        engine=ENGINE_VERSION,
    )


def _in(at: float, spans: list[tuple[float, float]]) -> bool:
    return any(a <= at < b for a, b in spans)


def _step(frame: _Frame, task: Task, placed: dict[str, float]) -> PlacedStep:
    """A task where it was put, with how far it can move while all others stay."""
    at = placed[task.key]
    earliest, latest = slack(frame, task, placed)
    is_fixed, done = task.key in frame.fixed, frame.fixed.get(task.key, (0.0, False))[1]
    return PlacedStep(
        key=task.key, name=task.name, lane=task.lane, note=task.note, at=frame.local(at), ends=frame.local(at + task.minutes),
        minutes=round(task.minutes, 1), earliest=frame.local(earliest), latest=frame.local(latest), flexible=latest - earliest >= 10.0 and not done,
        fixed=is_fixed, done=done, at_night=_in(at, frame.nights),
    )  # fmt: skip


def slack(frame: _Frame, task: Task, placed: dict[str, float]) -> tuple[float, float]:
    """The earliest and latest begin of one task, the others as they are; within the same open time."""
    at = placed[task.key]
    low, high = -LONGEST_MIN, frame.serve + 300.0
    for a, b, _ in open_spans(frame, set(GROUPS)):
        if a - 1e-6 <= at and at + task.minutes <= b + 1e-6:
            low, high = max(low, a), min(high, b - task.minutes)
    for wait in frame.made.waits:
        if wait.after == task.key:
            ends = placed[wait.before] if wait.before in placed else placed["serve"] + (frame.shape_at if wait.before == "first_shape" else 0.0)
            low, high = max(low, ends - wait.most - task.minutes), min(high, ends - wait.least - task.minutes)
        elif wait.before == task.key:
            begins = placed[wait.after] + frame.made.task(wait.after).minutes
            low, high = max(low, begins + wait.least), min(high, begins + wait.most)
    if frame.ask.hands == 1:
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
