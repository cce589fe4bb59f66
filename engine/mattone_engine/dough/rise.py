"""How a dough rises: gas, temperature and volume over time."""

from __future__ import annotations

import math
import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from mattone_engine.things.air import STANDARD_PRESSURE_PA, pressure_pa
from mattone_engine.things.base import StrictModel

StageKind = Literal["bulk", "balls", "pan"]
STEP_H = 0.02


LONGEST_H = 240.0
# How warm it usually is in each place, C.
PLACE_C = {"room": 21.0, "fridge": 4.0, "warm": 28.0, "oven": 28.0, "freezer": -18.0}


@dataclass(frozen=True)
class Stage:
    """When a stage is ready and best, as volume over its start; `after_ripe` both where the dough was ripe before it."""

    ready: float
    best: float
    ready_after_ripe: float
    best_after_ripe: float
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
    gas_most: float
    leak: float
    worn_at: float
    worn_by_warmth: float
    frozen_at: float
    freezing_kelvin: float
    after_freezing: float
    starter: float
    salt_usual: float
    salt: float
    sugar_free: float
    sugar: float
    holds_to: float
    limit: float
    gas_without_gluten: float
    leak_without_gluten: float
    spread: float
    lag_kg_h: float
    lag_power: float
    stage: dict[str, Stage]


@cache
def constants() -> Constants:
    """The constants of fermentation.toml."""
    row = tomllib.loads(files("mattone_engine.dough").joinpath("fermentation.toml").read_text(encoding="utf-8"))
    row["stage"] = {name: Stage(**values) for name, values in row["stage"].items()}
    return Constants(**row)


class RiseStep(StrictModel):
    """Some hours in a place. A new `stage` (divided, panned) counts its volume from its own start."""

    hours: Annotated[float, Field(gt=0, le=168)]
    temp_c: Annotated[float, Field(ge=-25, le=45)]
    stage: StageKind = "bulk"
    place: Annotated[str, Field(max_length=40)] = "room"


class Seen(StrictModel):
    """What the cook saw: the stage's volume over its start, so many hours after mixing."""

    at_h: Annotated[float, Field(ge=0, le=LONGEST_H)]
    ratio: Annotated[float, Field(ge=1.0, le=5.0)]


class FermentInput(StrictModel):
    """The JSON of `./mattone engine ferment`.

    yeast_pct is instant yeast (others converted), starter_pct active starter, both on all flour.
    gluten: the share of its flour that holds any; without it a dough keeps and wants less gas.
    speed: how fast this dough is known to rise against the model.
    solve "yeast": find the dose for which the last stage is at its best at its end, and no earlier one
    far beyond its own.
    solve "starter": the same by the starter.
    solve "last": stretch the last step until it is.
    """

    steps: Annotated[tuple[RiseStep, ...], Field(min_length=1, max_length=12, strict=False)]
    yeast_pct: Annotated[float, Field(ge=0, le=5)] = 0.3
    starter_pct: Annotated[float, Field(ge=0, le=60)] = 0.0
    salt_pct: Annotated[float, Field(ge=0, le=6)] = 2.2
    sugar_pct: Annotated[float, Field(ge=0, le=20)] = 0.0
    strength: Annotated[float, Field(ge=0.3, le=3)] = 1.0
    gluten: Annotated[float, Field(ge=0, le=1)] = 1.0
    speed: Annotated[float, Field(ge=0.3, le=3)] = 1.0
    dough_c: Annotated[float, Field(ge=0, le=45)] = 24.0
    mass_g: Annotated[float, Field(gt=0, le=30000)] = 1000.0
    ball_g: Annotated[float, Field(gt=0, le=6000)] = 250.0
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0
    seen: Annotated[tuple[Seen, ...], Field(max_length=60, strict=False)] = ()
    solve: Literal["nothing", "yeast", "starter", "last"] = "nothing"

    @model_validator(mode="after")
    def has_something_that_raises(self) -> FermentInput:
        if self.yeast_pct <= 0.0 and self.starter_pct <= 0.0 and self.solve not in ("yeast", "starter"):
            raise ValueError("yeast_pct: nothing raises this dough; give yeast or starter.")
        if sum(step.hours for step in self.steps) > LONGEST_H:
            raise ValueError(f"steps: more than {LONGEST_H:g} hours; no dough lasts that long.")
        order = [{"bulk": 0, "balls": 1, "pan": 2}[step.stage] for step in self.steps]
        if order != sorted(order):
            raise ValueError("steps: a dough goes from bulk to balls to pan, and not back; put the stages in that order.")
        return self


def rate_at(temp_c: np.ndarray | float) -> np.ndarray:
    """Rate against that at the reference temperature, >= 0 (Rosso et al. 1993)."""
    c = constants()
    return np.asarray(_cardinal(np.asarray(temp_c, dtype=float)) / _cardinal(np.asarray(c.t_reference)))


def _cardinal(t: np.ndarray) -> np.ndarray:
    c = constants()
    low, opt, high = c.t_min, c.t_opt, c.t_max
    value = (t - high) * (t - low) ** 2 / ((opt - low) * ((opt - low) * (t - opt) - (opt - high) * (opt + low - 2.0 * t)))
    return np.where((t <= low) | (t >= high), 0.0, value)


def dose(request: FermentInput) -> float:
    """What raises, as % instant yeast at usual salt, no sugar and a usual flour."""
    c = constants()
    salt = math.exp(-c.salt * (request.salt_pct - c.salt_usual))
    sugar = math.exp(-c.sugar * max(0.0, request.sugar_pct - c.sugar_free))
    return float((request.yeast_pct + c.starter * request.starter_pct) * salt * sugar * request.strength)


def lag_h(mass_g: float) -> float:
    """Time constant with which dough of this mass follows its surroundings, h. A crumb follows as a gram does."""
    c = constants()
    return float(c.lag_kg_h * (max(1.0, mass_g) / 1000.0) ** c.lag_power)


def dough_temperature(request: FermentInput, t_h: np.ndarray) -> np.ndarray:
    """The dough's own temperature at t_h (n,), first order in each step with a halt while its water freezes or thaws, exact."""
    out = np.empty(t_h.size)
    state, began = Chill(request.dough_c, 0.0), 0.0
    for i, step in enumerate(request.steps):
        mass = request.mass_g if step.stage == "bulk" else request.ball_g * constants().stage[step.stage].mass_factor
        ends = began + step.hours if i < len(request.steps) - 1 else math.inf
        here = (t_h >= began - 1e-9) & (t_h < ends - 1e-9)
        out[here] = state.over(t_h[here] - began, step.temp_c, lag_h(mass))
        state = state.after(step.hours, step.temp_c, lag_h(mass))
        began += step.hours
    return out


@dataclass(frozen=True)
class Chill:
    """A dough's temperature, C, and how much of its water is frozen (0 to 1)."""

    temp_c: float
    frozen: float

    def _legs(self, place_c: float, tau_h: float) -> tuple[float, float]:
        """Hours until the freezing point is reached, and those spent there, on the way to the place's temperature."""
        c = constants()
        to_freeze = place_c < c.frozen_at and self.frozen < 1.0
        to_thaw = place_c > c.frozen_at and self.frozen > 0.0
        if not (to_freeze or to_thaw):
            return math.inf, 0.0
        gap = place_c - c.frozen_at
        reach = tau_h * math.log(max(1.0, (place_c - self.temp_c) / gap))
        share = 1.0 - self.frozen if to_freeze else self.frozen
        return reach, share * c.freezing_kelvin * tau_h / abs(gap)

    def over(self, hours: np.ndarray, place_c: float, tau_h: float) -> np.ndarray:
        """Its temperature (n,) after so many hours (n,) in a place."""
        reach, stays = self._legs(place_c, tau_h)
        free = place_c + (self.temp_c - place_c) * np.exp(-hours / tau_h)
        if not math.isfinite(reach):
            return np.asarray(free)
        halt = constants().frozen_at
        later = place_c + (halt - place_c) * np.exp(-np.maximum(0.0, hours - reach - stays) / tau_h)
        return np.asarray(np.where(hours < reach, free, np.where(hours < reach + stays, halt, later)))

    def after(self, hours: float, place_c: float, tau_h: float) -> Chill:
        """The same dough after so many hours in a place."""
        reach, stays = self._legs(place_c, tau_h)
        temp = float(self.over(np.array([hours]), place_c, tau_h)[0])
        if hours <= reach:
            return Chill(temp, self.frozen)
        done = min(1.0, (hours - reach) / stays) if stays > 0.0 else 1.0
        return Chill(temp, self.frozen + (1.0 - self.frozen) * done if place_c < constants().frozen_at else self.frozen * (1.0 - done))


def _summed(rate: np.ndarray, t_h: np.ndarray) -> np.ndarray:
    """The integral of a rate (n,) up to each moment (n,), by trapezoids."""
    return np.concatenate(([0.0], np.cumsum(0.5 * (rate[1:] + rate[:-1]) * np.diff(t_h))))


def gas(yeast: float, t_h: np.ndarray, dough_c: np.ndarray, rate: np.ndarray | None = None) -> np.ndarray:
    """Gas made since mixing, as volumes of dough (n,): yeast that grows, slower after freezing, until its food is gone.

    rate: `rate_at(dough_c)` where it is known already.
    """
    c = constants()
    speed = rate_at(dough_c) if rate is None else rate
    worked = _summed(speed, t_h)
    alive = np.where(np.maximum.accumulate(dough_c < c.frozen_at - 0.5), c.after_freezing, 1.0)
    could = c.rate * yeast * alive * speed * np.exp(np.minimum(60.0, c.growth * worked)) * (1.0 - np.exp(-worked / c.lag))
    return np.asarray(c.gas_most * (1.0 - np.exp(-_summed(could, t_h) / c.gas_most)))


def held(made: np.ndarray, t_h: np.ndarray, rate: np.ndarray, from_h: float = 0.0, leaks: float = 1.0) -> np.ndarray:
    """Of the gas made (n,), what is in the dough (n,), all of it driven out at from_h.

    It leaks with time, as fast as the yeast works (`rate_at`); `leaks` times as fast as out of a dough of wheat.
    """
    leaked = leaks * constants().leak * _summed(rate, t_h)
    fresh = np.where(t_h > from_h, np.diff(made, prepend=0.0), 0.0)
    return np.asarray(np.exp(-leaked) * np.cumsum(fresh * np.exp(leaked)))


def worn(made: np.ndarray, dough_c: np.ndarray) -> np.ndarray:
    """How far a dough is used up (n,), 1 too far: acids and slack gluten come with the gas, and more of them in warmth."""
    c = constants()
    return np.asarray(np.cumsum(np.diff(made, prepend=0.0) * c.worn_by_warmth ** ((dough_c - 21.0) / 10.0)) / c.worn_at)


def volume(gas_volumes: np.ndarray, holds: float = 1.0) -> np.ndarray:
    """Volume over the start for so much gas in the dough: it stretches freely at first, less and less after.

    holds: how much of what a dough of wheat can hold.
    """
    c = constants()
    full, room = holds * (c.holds_to - 1.0), holds * (c.limit - c.holds_to)
    over = np.maximum(0.0, gas_volumes - full)
    return np.asarray(1.0 + np.minimum(gas_volumes, full) + room * (1.0 - np.exp(-over / room)))


def gas_for(ratio: float, holds: float = 1.0) -> float:
    """The gas that makes a volume: the inverse of `volume`."""
    c = constants()
    full, room = holds * (c.holds_to - 1.0), holds * (c.limit - c.holds_to)
    if ratio - 1.0 <= full:
        return ratio - 1.0
    return full - room * math.log(max(1e-9, 1.0 - (ratio - 1.0 - full) / room))


@dataclass(frozen=True)
class StageSpan:
    """One stage on a dough's way, in hours from mixing."""

    kind: StageKind
    from_h: float
    to_h: float


class Rise:
    """A dough on its way through its steps: whatever its yeast and its pace, its temperatures are the same."""

    def __init__(self, request: FermentInput, *, beyond_h: float = 0.0, most_points: int = 4000) -> None:
        self.request = request
        total = sum(step.hours for step in request.steps)
        count = max(50, min(most_points, round((total + beyond_h) / STEP_H)))
        self.t_h = np.linspace(0.0, total + beyond_h, count + 1)
        self.dough_c = dough_temperature(request, self.t_h)
        self.rate = rate_at(self.dough_c)
        # Thin air lets the same gas fill more.
        self.thin_air = STANDARD_PRESSURE_PA / pressure_pa(request.altitude_m)
        c, lacks = constants(), 1.0 - request.gluten
        self.holds = 1.0 - lacks * (1.0 - c.gas_without_gluten)
        self.leaks = 1.0 + lacks * (c.leak_without_gluten - 1.0)
        self.stages: list[StageSpan] = []
        self._made: dict[tuple[float, float], np.ndarray] = {}
        began = 0.0
        for step in request.steps:
            if self.stages and self.stages[-1].kind == step.stage:
                self.stages[-1] = StageSpan(step.stage, self.stages[-1].from_h, began + step.hours)
            else:
                self.stages.append(StageSpan(step.stage, began, began + step.hours))
            began += step.hours

    def made(self, yeast: float, speed: float) -> np.ndarray:
        """The gas made by each moment; worked out once for each speed."""
        key = (yeast, speed)
        if key not in self._made:
            self._made[key] = gas(yeast, self.t_h * speed, self.dough_c, self.rate)
        return self._made[key]

    def alone(self, from_h: float, yeast: float, speed: float) -> np.ndarray:
        """Volume over the start of one stage (n,), as if no other followed."""
        inside = held(self.made(yeast, speed), self.t_h * speed, self.rate, from_h * speed, self.leaks)
        return volume(self.thin_air * inside, self.holds)

    def ratio(self, yeast: float, speed: float = 1.0) -> np.ndarray:
        """Each moment's volume over the start of its own stage."""
        found = np.ones(self.t_h.size)
        for stage in self.stages:
            later = self.t_h >= stage.from_h - 1e-9
            found[later] = self.alone(stage.from_h, yeast, speed)[later]
        return found

    def at_end(self, stage: StageSpan, yeast: float, speed: float) -> float:
        """Volume over its start of a stage, at its end."""
        return float(np.interp(stage.to_h, self.t_h, self.alone(stage.from_h, yeast, speed)))

    def worn(self, yeast: float, speed: float) -> np.ndarray:
        """How far the dough is used up (n,), 1 too far: one that holds less falls in after less."""
        return worn(self.made(yeast, speed), self.dough_c) / self.holds

    def marks(self, stage: StageSpan, yeast: float, speed: float) -> tuple[float, float]:
        """The volumes from which a stage is ready, and at which it is best: a dough that was ripe before wants but a rest."""
        known = constants().stage[stage.kind]
        ripe = 0.0
        for earlier in self.stages[: self.stages.index(stage)]:
            wanted = 1.0 + self.holds * (constants().stage[earlier.kind].ready - 1.0)
            share = (self.at_end(earlier, yeast, speed) - 1.0) / (wanted - 1.0)
            # Half risen is not ripe yet.
            ripe = max(ripe, min(1.0, max(0.0, 2.0 * share - 1.0)))
        ready = known.ready + ripe * (known.ready_after_ripe - known.ready)
        best = known.best + ripe * (known.best_after_ripe - known.best)
        return 1.0 + self.holds * (ready - 1.0), 1.0 + self.holds * (best - 1.0)
