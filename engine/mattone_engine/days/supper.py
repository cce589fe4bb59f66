"""What a timeline is asked with, and the steps a supper is made of."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass, replace
from datetime import timedelta
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from mattone_engine.days.clock import moment, zone
from mattone_engine.dough.ferment import FermentResult, ferment
from mattone_engine.dough.rise import FermentInput, RiseStep, Seen, constants
from mattone_engine.dough.solve_rise import end_ratio
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import OneOf
from mattone_engine.things.dough import Shape

ProgrammeKey = Annotated[str, OneOf(lambda: programmes())]
MadeBefore = Literal["poolish", "biga", "starter", "paste", "old_dough"]
Lane = Literal["dough", "hands", "hearth", "table"]
Clock = Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]
LocalTime = Annotated[str, Field(max_length=40)]


# How warm it usually is there, C.
PLACE_C = {"room": 21.0, "fridge": 4.0, "warm": 28.0}


@dataclass(frozen=True)
class ProgrammeStep:
    """A stage of the dough in a place; flex: it may be longer or shorter."""

    stage: Literal["bulk", "balls", "pan"]
    place: Literal["room", "fridge", "warm"]
    hours: float
    flex: bool


@dataclass(frozen=True)
class Programme:
    """A way for a dough to spend its time."""

    name: str
    about: str
    steps: tuple[ProgrammeStep, ...]

    @property
    def hours(self) -> float:
        """All its hours together."""
        return sum(step.hours for step in self.steps)

    def shaped(self, shape: Shape) -> Programme:
        """As a dough of this shape goes through it: what is proofed in its pan ends there."""
        return replace(self, steps=(*self.steps[:-1], replace(self.steps[-1], stage="pan"))) if shape == "pan" else self

    @property
    def rise_steps(self) -> tuple[RiseStep, ...]:
        """Its steps in places as warm as usual."""
        return tuple(RiseStep(hours=s.hours, temp_c=PLACE_C[s.place], stage=s.stage, place=s.place) for s in self.steps)


@cache
def programmes() -> dict[str, Programme]:
    """All programmes by key, in the order they are offered."""
    rows = tomllib.loads(files("mattone_engine.days").joinpath("programmes.toml").read_text(encoding="utf-8"))
    return {key: Programme(row["name"], row["about"], tuple(ProgrammeStep(**s) for s in row["steps"])) for key, row in rows.items()}


class Absence(StrictModel):
    """Nobody is there from one local time to another."""

    from_at: LocalTime
    to_at: LocalTime


class Fixed(StrictModel):
    """A step the cook put at a time, or has done."""

    step: Annotated[str, Field(max_length=40)]
    at: LocalTime
    done: bool = False


class TimelineInput(StrictModel):
    """The JSON of `./mattone engine timeline`. Times without an offset are local to time_zone.

    bake_s and back_min are one bake and what the deck needs after it; preheat_min before the first.
    own_steps: the dough's own programme, in the stead of a known one. top_element_s: seconds before
    the launch at which it goes on. folds: how often the dough is folded after mixing.
    seen is what the cook saw of this dough, hours after mixing; speed what was known of it before.
    """

    serve_at: LocalTime
    now: LocalTime
    time_zone: Annotated[str, Field(max_length=60)] = "UTC"
    programme: ProgrammeKey = "cold_1"
    pizzas: Annotated[int, Field(ge=1, le=12)] = 4
    shape: Shape = "hand"
    hands: Annotated[int, Field(ge=1, le=2)] = 1
    sleep_from: Clock = "23:00"
    sleep_to: Clock = "07:00"
    absences: Annotated[tuple[Absence, ...], Field(max_length=40, strict=False)] = ()
    fixed: Annotated[tuple[Fixed, ...], Field(max_length=30, strict=False)] = ()
    preheat_min: Annotated[float, Field(ge=0, le=180)] = 45.0
    bake_s: Annotated[float, Field(ge=30, le=3600)] = 400.0
    back_min: Annotated[float, Field(ge=0, le=30)] = 7.0
    room_c: Annotated[float, Field(ge=5, le=40)] = PLACE_C["room"]
    fridge_c: Annotated[float, Field(ge=-2, le=20)] = PLACE_C["fridge"]
    warm_c: Annotated[float, Field(ge=20, le=38)] = PLACE_C["warm"]
    in_warmth: bool = False
    dough_g: Annotated[float, Field(gt=0, le=30000)] = 1000.0
    salt_pct: Annotated[float, Field(ge=0, le=6)] = 2.2
    sugar_pct: Annotated[float, Field(ge=0, le=20)] = 0.0
    starter_pct: Annotated[float, Field(ge=0, le=60)] = 0.0
    yeast_pct: Annotated[float, Field(gt=0, le=5)] | None = None
    preferments: Annotated[tuple[MadeBefore, ...], Field(max_length=5, strict=False)] = ()
    own_steps: Annotated[tuple[RiseStep, ...], Field(min_length=1, max_length=12, strict=False)] | None = None
    folds: Annotated[int, Field(ge=0, le=3)] = 0
    top_element_s: Annotated[float, Field(ge=0, le=1200)] | None = None
    cooked_sauce: bool = False
    may_wake: bool = False
    seen: Annotated[tuple[Seen, ...], Field(max_length=60, strict=False)] = ()
    speed: Annotated[float, Field(ge=0.3, le=3)] = 1.0


@dataclass(frozen=True)
class Task:
    """Something hands do: how long, in which lane, and what it is called."""

    key: str
    name: str
    lane: Lane
    minutes: float
    note: str = ""


@dataclass(frozen=True)
class Wait:
    """Between the end of one task and the begin of another: at least, at best, at most, in minutes."""

    after: str
    before: str
    least: float
    best: float
    most: float
    name: str
    stage: str
    place: str
    # Weight of an hour off the best.
    weight: float = 1.0


@dataclass(frozen=True)
class Supper:
    """All that must happen: tasks, the waits between them, and what is fixed to the first launch."""

    tasks: tuple[Task, ...]
    waits: tuple[Wait, ...]
    # Minutes after the first pizza is on the table, for what is bound to it.
    bound: tuple[tuple[Task, float], ...]
    rise: FermentResult

    def task(self, key: str) -> Task:
        """The task of this key; there is one, or the waits that name it are wrong."""
        return next(t for t in self.tasks if t.key == key)


def programme_of(request: TimelineInput) -> Programme:
    """The dough's own hours, else the known programme. Of its own, the longest and any cold step give way."""
    if request.own_steps is None:
        return programmes()[request.programme].shaped(request.shape)
    longest = max(request.own_steps, key=lambda step: step.hours)
    steps = []
    for step in request.own_steps:
        place: Literal["room", "fridge", "warm"] = "fridge" if step.temp_c <= COLD_C else "warm" if step.temp_c >= request.room_c + 4.0 else "room"
        steps.append(ProgrammeStep(step.stage, place, step.hours, flex=step is longest or place == "fridge"))
    return Programme("as in the dough", "the hours set on the dough's own curve", tuple(steps))


# Up to here a place is a fridge.
COLD_C = 12.0
REST_MIN = 2.5
FOLD_MIN = 3.0
SHAPE_MIN = 4.0
MIX_MIN = 20.0


def rise_input(request: TimelineInput) -> FermentInput:
    """The dough's own hours in this programme; with a dose that is given, as long as that dose takes."""
    place_c = {"room": request.warm_c if request.in_warmth else request.room_c, "fridge": request.fridge_c, "warm": request.warm_c}
    steps = [RiseStep(hours=s.hours, temp_c=place_c[s.place], stage=s.stage, place=s.place) for s in programme_of(request).steps]
    asked = FermentInput(
        steps=tuple(steps),
        yeast_pct=request.yeast_pct if request.yeast_pct is not None else 0.3,
        solve="yeast" if request.yeast_pct is None else "nothing",
        starter_pct=request.starter_pct,
        salt_pct=request.salt_pct,
        sugar_pct=request.sugar_pct,
        mass_g=request.dough_g,
        ball_g=max(20.0, min(6000.0, request.dough_g / request.pizzas)),
        speed=request.speed,
    )
    if request.yeast_pct is None:
        return asked
    return _as_long_as_it_takes(request, asked.model_copy(update={"speed": _pace(request, asked)}))


def _pace(request: TimelineInput, asked: FermentInput) -> float:
    """How fast this dough rises against the model, by what was seen of it in the hours it really had."""
    if not request.seen:
        return request.speed
    really = asked.model_copy(update={"steps": _as_it_went(request, asked.steps), "seen": request.seen})
    return min(3.0, max(0.3, ferment(really).speed))


def _as_it_went(request: TimelineInput, steps: tuple[RiseStep, ...]) -> tuple[RiseStep, ...]:
    """The steps with the hours they had, as far as both their ends are done; the one under way goes on."""
    where = zone(request.time_zone)
    done = {one.step: moment(one.at, where, "fixed") for one in request.fixed if one.done}
    if "mix" not in done:
        return steps
    began = done["mix"] + timedelta(minutes=MIX_MIN)
    found, taken = list(steps), set[str]()
    for i, step in enumerate(steps):
        key = _border(programme_of(request).steps, i, request.pizzas, taken).key if i < len(steps) - 1 else ""
        taken.add(key)
        if key not in done:
            # It lasts at least until it was looked at last.
            lasts = max([step.hours, *(seen.at_h - sum(s.hours for s in found[:i]) for seen in request.seen)])
            found[i] = step.model_copy(update={"hours": min(168.0, lasts)})
            break
        found[i] = step.model_copy(update={"hours": min(168.0, max(0.05, (done[key] - began).total_seconds() / 3600.0))})
        began = done[key]
    return tuple(found)


def _as_long_as_it_takes(request: TimelineInput, asked: FermentInput) -> FermentInput:
    """Each stage's flexible step (of the last stage: any) so long that the stage ends at its best."""
    flexible = [step.flex for step in programme_of(request).steps]
    for i, step in enumerate(asked.steps):
        stage = [j for j, one in enumerate(asked.steps) if one.stage == step.stage]
        last_stage = asked.steps[-1].stage == step.stage
        gives_way = next((j for j in stage if flexible[j]), stage[-1] if last_stage else None)
        if i != gives_way:
            continue
        best = constants().stage[step.stage].best
        low, high = 0.4 * step.hours, 2.5 * step.hours
        for _ in range(9):
            hours = 0.5 * (low + high)
            trial = _with_hours(asked, i, hours)
            upto = trial.model_copy(update={"steps": trial.steps[: stage[-1] + 1]})
            low, high = (hours, high) if end_ratio(upto) < best else (low, hours)
        asked = _with_hours(asked, i, 0.5 * (low + high))
    return asked


def _with_hours(asked: FermentInput, i: int, hours: float) -> FermentInput:
    steps = tuple(step.model_copy(update={"hours": min(168.0, hours)}) if j == i else step for j, step in enumerate(asked.steps))
    return asked.model_copy(update={"steps": steps})


def supper(request: TimelineInput) -> Supper:
    """The tasks of this supper with the waits its dough allows."""
    if request.fridge_c > 8.0 and any(s.place == "fridge" for s in programme_of(request).steps):
        raise InputError(
            "fridge_c",
            f"A fridge at {{{request.fridge_c:g} C}} keeps no food safe and no dough slow; set it to {{5 C}} or below, or choose a programme without it.",
        )
    rise = ferment(rise_input(request))
    tasks: list[Task] = []
    waits: list[Wait] = []
    before_mix: list[Task] = []
    for kind in request.preferments:
        if kind in ("poolish", "biga"):
            before_mix.append(Task(kind, f"Stir the {kind}", "dough", 8.0, "cover it; bubbles all through when it is ripe"))
            waits.append(Wait(kind, "mix", 8 * 60.0, 12 * 60.0, 15 * 60.0, f"{kind} ripens", "preferment", "room"))
        elif kind == "paste":
            before_mix.append(Task("paste", "Scald the flour paste", "dough", 10.0, "stir until it thickens, cover it, let it cool"))
            waits.append(Wait("paste", "mix", 60.0, 3 * 60.0, 24 * 60.0, "paste cools", "preferment", "fridge", 0.2))
    if "starter" in request.preferments or (request.starter_pct > 0 and not {"poolish", "biga", "old_dough"} & set(request.preferments)):
        before_mix.append(Task("feed", "Feed the starter", "dough", 6.0, "use it at its height"))
        waits.append(Wait("feed", "mix", 4 * 60.0, 6 * 60.0, 9 * 60.0, "starter climbs", "preferment", "room"))
    tasks += before_mix
    tasks.append(Task("mix", "Weigh and mix", "dough", MIX_MIN, "no dry flour left, the dough near {25 C}; covered, in a bowl three times its size"))
    for i in range(request.folds):
        tasks.append(Task(f"fold_{i + 1}", "Fold the dough", "dough", FOLD_MIN, "pull each side over the middle, wet hands"))
        before = f"fold_{i}" if i else "mix"
        waits.append(Wait(before, f"fold_{i + 1}", 10.0, 25.0, 75.0, "rests", "", "room", 0.3))
    _dough_steps(request, rise, tasks, waits)
    first_shape = -(request.bake_s / 60.0 + REST_MIN) - SHAPE_MIN - 1.0
    sauce = Task("sauce", "Sauce: cook and cool" if request.cooked_sauce else "Sauce: crush, salt, drain", "hands", 35.0 if request.cooked_sauce else 10.0)
    prep = Task("prep", "Toppings: drain, cut, grate; chill the cheese", "hands", 10.0 + 2.0 * request.pizzas, "back in the fridge until the launch")
    tasks += [sauce, prep]
    # The freshest is just before; but within a day (sauce: two) it keeps.
    waits.append(Wait("sauce", "serve", 60.0 if request.cooked_sauce else 20.0, 75.0, 48 * 60.0, "sauce keeps", "", "fridge", 0.05))
    waits.append(Wait("prep", "serve", -first_shape + 5.0, -first_shape + 10.0, 10 * 60.0, "toppings keep, cold", "", "fridge", 0.15))
    return Supper(tuple(tasks), tuple(waits), tuple(_bound(request)), rise)


def _dough_steps(request: TimelineInput, rise: FermentResult, tasks: list[Task], waits: list[Wait]) -> None:
    """Bulk, divide, balls in their places, out of the fridge, into the pan: with what each wait may be."""
    steps = programme_of(request).steps
    windows = {w.stage: w for w in rise.windows}
    last_key = "mix"
    folded = f"fold_{request.folds}" if request.folds else ""
    for i, step in enumerate(steps):
        final = i == len(steps) - 1
        stage, window = step.stage, windows[step.stage]
        best = rise.hours[i] * 60.0
        early = _room(window.best_h, window.ready_h, -1.0)
        late = _room(window.best_h, window.too_far_h, 1.0) * 0.6
        # A cold step stretches by what its stage can bear; a short one before it hardly at all.
        least = max(0.45 * best, best - early) if step.flex else 0.75 * best
        most = best + min(late, 0.6 * best) if step.flex else best + min(60.0, 0.5 * best, max(15.0, late))
        if i == 0 and folded:
            # The last fold comes before the dough is divided or goes into the cold.
            waits.append(Wait(folded, "first_shape" if final else "", 10.0, 20.0, 200 * 60.0, "rests", "", "room", 0.0))
        if final:
            waits.append(Wait(last_key, "first_shape", least, best, most, _place_name(step.place, stage), stage, step.place))
            break
        task = _border(steps, i, request.pizzas, {one.key for one in tasks})
        tasks.append(task)
        if waits and waits[-1].before == "":
            waits[-1] = replace(waits[-1], before=task.key)
        waits.append(Wait(last_key, task.key, least, best, most, _place_name(step.place, stage), stage, step.place))
        last_key = task.key


def _border(steps: tuple[ProgrammeStep, ...], i: int, pizzas: int, taken: set[str]) -> Task:
    """What hands do between one place and the next; a second trip of a kind is numbered."""
    here, following = steps[i], steps[i + 1]
    cold = following.place == "fridge"
    if following.stage != here.stage and following.stage == "pan":
        task = Task("pan", "Oil the pans, dough in, stretch", "dough", 6.0 + 3.0 * pizzas, "relax 15 min, stretch again into the corners")
    elif following.stage != here.stage:
        task = Task("ball", "Divide and ball", "dough", 5.0 + 1.5 * pizzas, "cover them, or they skin" + ("; into the fridge" if cold else ""))
    elif cold:
        task = Task("cool", "Dough into the fridge", "dough", 2.0, "covered, with room to rise")
    elif here.place == "fridge":
        task = Task("out", "Dough out of the fridge", "dough", 2.0, "it must lose its chill before it is stretched")
    else:
        task = Task("move", "Dough to another place", "dough", 2.0)
    again = sum(key.split("_")[0] == task.key for key in taken)
    return replace(task, key=f"{task.key}_{again + 1}") if again else task


def _place_name(place: str, stage: str) -> str:
    what = {"bulk": "dough", "balls": "balls", "pan": "pans"}[stage]
    return f"{what} in the fridge" if place == "fridge" else f"{what} rise"


def _room(best_h: float | None, mark_h: float | None, sign: float) -> float:
    """Minutes between a stage's best and its ready (or too far) moment; generous where it is not reached."""
    if best_h is None:
        return 120.0
    if mark_h is None:
        return 24 * 60.0
    return max(0.0, sign * (mark_h - best_h) * 60.0)


def gap_min(request: TimelineInput) -> float:
    """Minutes from one launch to the next: the bake, the deck's return, and time to shape the next."""
    bake = request.bake_s / 60.0
    return bake + max(request.back_min, 2.0, SHAPE_MIN + 2.0 - bake if request.hands > 1 or request.shape == "pan" else SHAPE_MIN + 1.5)


def _bound(request: TimelineInput) -> list[tuple[Task, float]]:
    """What hangs on the serving time, minutes after it: heat, shaping, launches, the table."""
    bake = request.bake_s / 60.0
    launch = -(bake + REST_MIN)
    found = [(Task("heat", "Heat the hearth", "hearth", 1.0, f"{request.preheat_min:.0f} min to the first launch"), launch - request.preheat_min)]
    if request.top_element_s is not None:
        on = launch - request.top_element_s / 60.0
        found.append((Task("top_on", "Top element on", "hearth", 1.0, "stay with it: it burns in seconds"), on))
    gap = gap_min(request)
    for i in range(request.pizzas):
        at = launch + i * gap
        n = f" {i + 1}" if request.pizzas > 1 else ""
        if request.shape != "pan":
            found.append((Task(f"shape_{i + 1}", f"Shape{n}", "hands", SHAPE_MIN, "floured peel; it must slide before it is topped"), at - SHAPE_MIN - 1.0))
        found.append((Task(f"launch_{i + 1}", f"Launch{n}", "hearth", bake), at))
        found.append((Task(f"table_{i + 1}", f"On the table{n}", "table", 10.0, "rested on a rack, cut, tender herbs on now"), at + bake + REST_MIN))
    return found
