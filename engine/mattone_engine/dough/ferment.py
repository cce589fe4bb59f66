"""How dough rises: gas by temperature, yeast and time, in a dough that follows its surroundings slowly.

The rate follows the cardinal temperature model with inflection (Rosso, Lobry & Flandrois 1993); its
lower end lies below 0 C, or fridge doughs could not be explained. Fitted to the reference points of
general practice, which `tests/test_ferment.py` holds it to.
"""

from __future__ import annotations

import math
import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator
from scipy.optimize import minimize_scalar

from mattone_engine import ENGINE_VERSION
from mattone_engine.errors import InputError
from mattone_engine.things.base import Thing

StageKind = Literal["bulk", "balls", "pan"]
STEP_H = 0.02
LONGEST_H = 240.0


@dataclass(frozen=True)
class Stage:
    """When a stage is ready, best and too far, as volume over its start."""

    ready: float
    best: float
    too_far: float
    mass_factor: float


@dataclass(frozen=True)
class Constants:
    """See fermentation.toml."""

    t_min: float
    t_opt: float
    t_max: float
    t_reference: float
    rate: float
    growth: float
    lag: float
    starter: float
    salt_usual: float
    salt: float
    sugar_free: float
    sugar: float
    holds_to: float
    limit: float
    spread: float
    lag_kg_h: float
    lag_power: float
    stage: dict[str, Stage]


@cache
def constants() -> Constants:
    row = tomllib.loads(files("mattone_engine.dough").joinpath("fermentation.toml").read_text(encoding="utf-8"))
    row["stage"] = {name: Stage(**values) for name, values in row["stage"].items()}
    return Constants(**row)


class RiseStep(Thing):
    """Some hours in a place. A new `stage` (divided, panned) counts its volume from its own start."""

    hours: Annotated[float, Field(gt=0, le=168)]
    temp_c: Annotated[float, Field(ge=-25, le=45)]
    stage: StageKind = "bulk"
    place: Annotated[str, Field(max_length=40)] = "room"


class Seen(Thing):
    """What the cook saw: the stage's volume over its start, so many hours after mixing."""

    at_h: Annotated[float, Field(ge=0, le=LONGEST_H)]
    ratio: Annotated[float, Field(ge=1.0, le=5.0)]


class FermentInput(Thing):
    """The JSON of `./mattone engine ferment`.

    yeast_pct is instant yeast (others converted), starter_pct active starter, both on all flour.
    speed: how fast this dough is known to rise against the model.
    solve "yeast": find the dose for which the last stage is at its best at its end, and no earlier one
    far beyond its own.
    solve "last": stretch the last step until it is.
    """

    steps: Annotated[tuple[RiseStep, ...], Field(min_length=1, max_length=12, strict=False)]
    yeast_pct: Annotated[float, Field(ge=0, le=5)] = 0.3
    starter_pct: Annotated[float, Field(ge=0, le=60)] = 0.0
    salt_pct: Annotated[float, Field(ge=0, le=6)] = 2.2
    sugar_pct: Annotated[float, Field(ge=0, le=20)] = 0.0
    strength: Annotated[float, Field(ge=0.3, le=3)] = 1.0
    speed: Annotated[float, Field(ge=0.3, le=3)] = 1.0
    dough_c: Annotated[float, Field(ge=0, le=45)] = 24.0
    mass_g: Annotated[float, Field(gt=0, le=30000)] = 1000.0
    ball_g: Annotated[float, Field(gt=0, le=6000)] = 250.0
    seen: Annotated[tuple[Seen, ...], Field(max_length=60, strict=False)] = ()
    solve: Literal["nothing", "yeast", "last"] = "nothing"

    @model_validator(mode="after")
    def has_something_that_raises(self) -> FermentInput:
        if self.yeast_pct <= 0.0 and self.starter_pct <= 0.0 and self.solve != "yeast":
            raise ValueError("yeast_pct: nothing raises this dough; give yeast or starter.")
        if sum(step.hours for step in self.steps) > LONGEST_H:
            raise ValueError(f"steps: more than {LONGEST_H:g} hours; no dough lasts that long.")
        order = [{"bulk": 0, "balls": 1, "pan": 2}[step.stage] for step in self.steps]
        if order != sorted(order):
            raise ValueError("steps: a dough goes from bulk to balls to pan, and not back; put the stages in that order.")
        return self


class Window(Thing):
    """Hours after mixing at which a stage is ready, best and too far; null: not within its steps and a day after."""

    stage: str
    from_h: float
    to_h: float
    ready_h: float | None
    best_h: float | None
    too_far_h: float | None
    ready_early_h: float | None
    ready_late_h: float | None
    ratio_at_end: float
    word: str


class FermentResult(Thing):
    """The rise: t_h, its ratio with an early and a late bound (80 %), the dough's own temperature."""

    t_h: list[float]
    ratio: list[float]
    ratio_fast: list[float]
    ratio_slow: list[float]
    dough_c: list[float]
    windows: list[Window]
    yeast_pct: float
    hours: list[float]
    spread: float
    speed: float
    say: str
    engine: str


def rate_at(temp_c: np.ndarray | float) -> np.ndarray:
    """Rate against that at the reference temperature, >= 0 (Rosso et al. 1993)."""
    c = constants()
    return np.asarray(_cardinal(np.asarray(temp_c, dtype=float)) / _cardinal(np.asarray(c.t_reference)))


def _cardinal(t: np.ndarray) -> np.ndarray:
    c = constants()
    low, opt, high = c.t_min, c.t_opt, c.t_max
    value = (t - high) * (t - low) ** 2 / ((opt - low) * ((opt - low) * (t - opt) - (opt - high) * (opt + low - 2.0 * t)))
    return np.where((t <= low) | (t >= high), 0.0, value)


def dose(ask: FermentInput) -> float:
    """What raises, as % instant yeast at usual salt, no sugar and a usual flour."""
    c = constants()
    salt = math.exp(-c.salt * (ask.salt_pct - c.salt_usual))
    sugar = math.exp(-c.sugar * max(0.0, ask.sugar_pct - c.sugar_free))
    return float((ask.yeast_pct + c.starter * ask.starter_pct) * salt * sugar * ask.strength)


def lag_h(mass_g: float) -> float:
    """Time constant with which dough of this mass follows its surroundings, h. A crumb follows as a gram does."""
    c = constants()
    return float(c.lag_kg_h * (max(1.0, mass_g) / 1000.0) ** c.lag_power)


def dough_temperature(ask: FermentInput, t_h: np.ndarray) -> np.ndarray:
    """The dough's own temperature at t_h (n,), first order in each step, exact."""
    out = np.empty(t_h.size)
    start_c, began = ask.dough_c, 0.0
    for i, step in enumerate(ask.steps):
        mass = ask.mass_g if step.stage == "bulk" else ask.ball_g * constants().stage[step.stage].mass_factor
        tau = lag_h(mass)
        ends = began + step.hours if i < len(ask.steps) - 1 else math.inf
        here = (t_h >= began - 1e-9) & (t_h < ends - 1e-9)
        out[here] = step.temp_c + (start_c - step.temp_c) * np.exp(-(t_h[here] - began) / tau)
        start_c = step.temp_c + (start_c - step.temp_c) * math.exp(-step.hours / tau)
        began += step.hours
    return out


def gas(yeast: float, t_h: np.ndarray, dough_c: np.ndarray) -> np.ndarray:
    """Gas made since mixing, as volumes of dough (n,): yeast that grows, after a short lag."""
    c = constants()
    speed = rate_at(dough_c)
    steps = np.diff(t_h, prepend=t_h[0])
    worked = np.cumsum(speed * steps)
    made = c.rate * yeast * speed * np.exp(c.growth * worked) * (1.0 - np.exp(-worked / c.lag))
    return np.asarray(np.cumsum(made * steps))


def volume(gas_volumes: np.ndarray) -> np.ndarray:
    """Volume over the start for so much gas: all of it is held at first, less and less after."""
    c = constants()
    full, room = c.holds_to - 1.0, c.limit - c.holds_to
    over = np.maximum(0.0, gas_volumes - full)
    return np.asarray(1.0 + np.minimum(gas_volumes, full) + room * (1.0 - np.exp(-over / room)))


def gas_for(ratio: float) -> float:
    """The gas that makes a volume: the inverse of `volume`."""
    c = constants()
    if ratio <= c.holds_to:
        return ratio - 1.0
    room = c.limit - c.holds_to
    return c.holds_to - 1.0 - room * math.log(max(1e-9, 1.0 - (ratio - c.holds_to) / room))


class _Rise:
    """A dough on its way through its steps, at one speed."""

    def __init__(self, ask: FermentInput, *, beyond_h: float = 0.0) -> None:
        self.ask = ask
        total = sum(step.hours for step in ask.steps)
        count = max(50, min(4000, round((total + beyond_h) / STEP_H)))
        self.t_h = np.linspace(0.0, total + beyond_h, count + 1)
        self.dough_c = dough_temperature(ask, self.t_h)
        self.stages: list[tuple[str, float, float]] = []
        self._made: dict[tuple[float, float], np.ndarray] = {}
        began = 0.0
        for step in ask.steps:
            if self.stages and self.stages[-1][0] == step.stage:
                self.stages[-1] = (step.stage, self.stages[-1][1], began + step.hours)
            else:
                self.stages.append((step.stage, began, began + step.hours))
            began += step.hours

    def made(self, yeast: float, speed: float) -> np.ndarray:
        """The gas made by each moment; worked out once for each speed."""
        key = (yeast, speed)
        if key not in self._made:
            self._made[key] = gas(yeast, self.t_h * speed, self.dough_c)
        return self._made[key]

    def ratio(self, yeast: float, speed: float = 1.0) -> np.ndarray:
        """Each moment's volume over the start of its own stage."""
        made = self.made(yeast, speed)
        start = np.zeros(self.t_h.size)
        for _, from_h, _ in self.stages:
            later = self.t_h >= from_h - 1e-9
            start[later] = np.interp(from_h, self.t_h, made)
        return volume(made - start)


def ferment(ask: FermentInput) -> FermentResult:
    """The rise of a dough through its steps, with its windows; doses and times solved where asked.

    Raises InputError when what is asked cannot be reached.
    """
    told = _solved(ask)
    total = sum(step.hours for step in told.steps)
    rise = _Rise(told, beyond_h=min(24.0, max(2.0, 0.5 * total)))
    yeast = dose(told)
    speed, spread = observed(told, rise, yeast)
    now = rise.ratio(yeast, speed)
    fast, slow = (rise.ratio(yeast, speed * math.exp(sign * spread)) for sign in (1.0, -1.0))
    windows = [_window(rise, stage, told, yeast, speed, spread) for stage in rise.stages]
    shown = np.linspace(0, rise.t_h.size - 1, min(241, rise.t_h.size)).astype(int)
    return FermentResult(
        t_h=[round(float(v), 3) for v in rise.t_h[shown]],
        ratio=[round(float(v), 3) for v in now[shown]],
        ratio_fast=[round(float(v), 3) for v in fast[shown]],
        ratio_slow=[round(float(v), 3) for v in slow[shown]],
        dough_c=[round(float(v), 1) for v in rise.dough_c[shown]],
        windows=windows,
        yeast_pct=told.yeast_pct,
        hours=[step.hours for step in told.steps],
        spread=round(spread, 4),
        speed=round(speed, 4),
        say=_say(windows),
        engine=ENGINE_VERSION,
    )


def observed(ask: FermentInput, rise: _Rise, yeast: float) -> tuple[float, float]:
    """Speed against the model's and what spread is left (ln, 80 %) after what the cook saw.

    Each observation gives a speed; it is weighed against what is believed already by their
    variances (a Kalman update in one dimension, with a reading of a volume good to about 6 %).
    """
    mean, variance = math.log(ask.speed), (constants().spread / 1.2816) ** 2
    for seen in sorted(ask.seen, key=lambda one: one.at_h):
        if seen.ratio < 1.05 or seen.at_h <= 0.05:
            continue

        def at(speed: float, seen: Seen = seen) -> float:
            return float(np.interp(seen.at_h, rise.t_h, rise.ratio(yeast, speed)))

        low, high = math.log(0.2), math.log(5.0)
        for _ in range(40):
            mid = 0.5 * (low + high)
            low, high = (mid, high) if at(math.exp(mid)) < seen.ratio else (low, mid)
        here = 0.5 * (low + high)
        slope = (at(math.exp(here + 0.05)) - at(math.exp(here - 0.05))) / 0.1
        noise = (0.06 * seen.ratio / max(0.05, slope)) ** 2 + 0.03**2
        gain = variance / (variance + noise)
        mean, variance = mean + gain * (here - mean), (1.0 - gain) * variance
    return math.exp(mean), 1.2816 * math.sqrt(variance)


def _window(rise: _Rise, stage: tuple[str, float, float], ask: FermentInput, yeast: float, speed: float, spread: float) -> Window:
    kind, from_h, to_h = stage
    marks = constants().stage[kind]
    last = stage == rise.stages[-1]

    def reached(ratio: float, by: float) -> float | None:
        values = _alone(rise, from_h, yeast, by)
        there = (rise.t_h >= from_h) & (values >= ratio)
        if not there.any():
            return None
        i = int(np.argmax(there))
        if i == 0:
            return float(rise.t_h[0])
        return float(np.interp(ratio, values[i - 1 : i + 1], rise.t_h[i - 1 : i + 1]))

    at_end = float(np.interp(to_h, rise.t_h, _alone(rise, from_h, yeast, speed)))
    word = "too far" if at_end > marks.too_far else "ripe" if at_end >= marks.ready else "young" if at_end >= 1.25 or not last else "hardly risen"
    return Window(
        stage=kind,
        from_h=from_h,
        to_h=to_h,
        ready_h=reached(marks.ready, speed),
        best_h=reached(marks.best, speed),
        too_far_h=reached(marks.too_far, speed),
        ready_early_h=reached(marks.ready, speed * math.exp(spread)),
        ready_late_h=reached(marks.ready, speed * math.exp(-spread)),
        ratio_at_end=round(at_end, 3),
        word=word,
    )


def _alone(rise: _Rise, from_h: float, yeast: float, speed: float) -> np.ndarray:
    """Volume over the start of one stage, as if no other followed."""
    made = rise.made(yeast, speed)
    return volume(np.maximum(0.0, made - np.interp(from_h, rise.t_h, made)))


def end_ratio(ask: FermentInput) -> float:
    """Volume over its start of the last stage, at its end."""
    return float(_Rise(ask).ratio(dose(ask), ask.speed)[-1])


def _solved(ask: FermentInput) -> FermentInput:
    if ask.solve == "nothing":
        return ask
    last = constants().stage[ask.steps[-1].stage]

    if ask.solve == "yeast":
        low, high = math.log(0.001), math.log(3.0)
        if end_ratio(ask.model_copy(update={"yeast_pct": 3.0})) < last.best:
            raise InputError("steps", "Even 3 % of instant yeast is too slow for these hours; give it longer or a warmer place.")
        if end_ratio(ask.model_copy(update={"yeast_pct": 0.001})) > last.best:
            if ask.starter_pct > 0.0:
                raise InputError("steps", "The starter alone is too much for these hours; use less of it, shorter hours or a colder place.")
            raise InputError("steps", "Even a trace of yeast goes too far in these hours; use a colder place or shorter hours.")
        off = minimize_scalar(
            lambda ln: _off(ask.model_copy(update={"yeast_pct": math.exp(ln)})), bounds=(low, high), method="bounded", options={"xatol": 1e-3}
        )
        return ask.model_copy(update={"yeast_pct": math.exp(float(off.x)), "solve": "nothing"})

    def stretched(hours: float) -> FermentInput:
        return ask.model_copy(update={"steps": (*ask.steps[:-1], ask.steps[-1].model_copy(update={"hours": hours}))})

    low, high = 0.1, 120.0
    if end_ratio(stretched(high)) < last.best:
        raise InputError("steps", "The last step never gets there: it is too cold or the yeast too little; warm it or give more yeast.")
    if end_ratio(stretched(low)) > last.best:
        raise InputError("steps", "The dough is past its best before its last step begins; shorten the step before, or use less yeast.")
    for _ in range(40):
        mid = 0.5 * (low + high)
        low, high = (mid, high) if end_ratio(stretched(mid)) < last.best else (low, mid)
    return stretched(0.5 * (low + high)).model_copy(update={"solve": "nothing"})


def _off(ask: FermentInput) -> float:
    """How far a dose is from right: the last stage from its best, and any earlier one beyond its own."""
    rise, yeast = _Rise(ask), dose(ask)
    total = 0.0
    made = rise.made(yeast, ask.speed)
    for stage in rise.stages:
        kind, from_h, to_h = stage
        grown = max(1e-6, float(np.interp(to_h, rise.t_h, made) - np.interp(from_h, rise.t_h, made)))
        off = math.log(grown / gas_for(constants().stage[kind].best))
        # A bulk that is divided young is no fault; one that is past its best is.
        total += off**2 if stage == rise.stages[-1] else max(0.0, off) ** 2
    return total


def _say(windows: list[Window]) -> str:
    last = windows[-1]
    name, verb, goes = {"bulk": ("The dough", "is", "goes"), "balls": ("The balls", "are", "go"), "pan": ("The pan", "is", "goes")}[last.stage]
    if last.word == "too far":
        return f"{name} {goes} too far by the end: less yeast, a colder place, or use it sooner."
    if last.word in ("young", "hardly risen"):
        return f"{name} {verb} not ripe at the end: more yeast, a warmer place, or longer."
    early = next((w for w in windows[:-1] if w.word == "too far"), None)
    if early is not None:
        return f"The {early.stage} goes too far before it is divided: divide sooner, or make it colder."
    return f"{name} {verb} ripe at the end, at x{last.ratio_at_end:.1f}."
