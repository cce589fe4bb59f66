"""The hours a dough gets: of its programme, of its dose, and as they really went."""

from __future__ import annotations

from datetime import timedelta

from mattone_engine.days.asked import MIX_MIN, TimelineInput, programme_of
from mattone_engine.days.clock import moment, zone
from mattone_engine.days.tasks import border
from mattone_engine.dough.ferment import ferment
from mattone_engine.dough.rise import PLACE_C, FermentInput, RiseStep
from mattone_engine.dough.solve_rise import falls_short


def rise_input(request: TimelineInput) -> FermentInput:
    """The dough's own hours in this programme; with a dose that is given, as long as that dose takes where the hours may give way."""
    place_c = PLACE_C | {"room": request.warm_c if request.in_warmth else request.room_c, "fridge": request.fridge_c, "warm": request.warm_c}
    steps = [
        RiseStep(hours=s.hours, temp_c=s.temp_c if s.temp_c is not None else place_c[s.place], stage=s.stage, place=s.place)
        for s in programme_of(request).steps
    ]
    solves = request.yeast_pct is None and not request.by_starter_alone
    asked = FermentInput(
        steps=tuple(steps),
        yeast_pct=request.yeast_pct if request.yeast_pct is not None else 0.0 if request.by_starter_alone else 0.3,
        solve="yeast" if solves else "nothing",
        starter_pct=request.starter_pct,
        salt_pct=request.salt_pct,
        sugar_pct=request.sugar_pct,
        gluten=request.gluten,
        dough_c=request.dough_c,
        mass_g=request.mix_g if request.mix_g is not None else request.dough_g,
        ball_g=request.ball_g if request.ball_g is not None else max(20.0, min(6000.0, request.dough_g / request.pizzas)),
        speed=request.speed,
        altitude_m=request.altitude_m,
    )
    if solves:
        return asked
    paced = asked.model_copy(update={"speed": _pace(request, asked)})
    return _as_long_as_it_takes(request, paced) if request.hours_give_way else paced


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
        key = border(programme_of(request).steps, i, request.pizzas, taken, request.by_hand).key if i < len(steps) - 1 else ""
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
        low, high = 0.4 * step.hours, 2.5 * step.hours
        for _ in range(9):
            hours = 0.5 * (low + high)
            trial = _with_hours(asked, i, hours)
            upto = trial.model_copy(update={"steps": trial.steps[: stage[-1] + 1]})
            low, high = (hours, high) if falls_short(upto) else (low, hours)
        asked = _with_hours(asked, i, 0.5 * (low + high))
    return asked


def _with_hours(asked: FermentInput, i: int, hours: float) -> FermentInput:
    steps = tuple(step.model_copy(update={"hours": min(168.0, hours)}) if j == i else step for j, step in enumerate(asked.steps))
    return asked.model_copy(update={"steps": steps})
