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

from mattone_engine.things.base import StrictModel

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
    """The dough's own temperature at t_h (n,), first order in each step, exact."""
    out = np.empty(t_h.size)
    start_c, began = request.dough_c, 0.0
    for i, step in enumerate(request.steps):
        mass = request.mass_g if step.stage == "bulk" else request.ball_g * constants().stage[step.stage].mass_factor
        tau = lag_h(mass)
        ends = began + step.hours if i < len(request.steps) - 1 else math.inf
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


class Rise:
    """A dough on its way through its steps, at one speed."""

    def __init__(self, request: FermentInput, *, beyond_h: float = 0.0) -> None:
        self.request = request
        total = sum(step.hours for step in request.steps)
        count = max(50, min(4000, round((total + beyond_h) / STEP_H)))
        self.t_h = np.linspace(0.0, total + beyond_h, count + 1)
        self.dough_c = dough_temperature(request, self.t_h)
        self.stages: list[tuple[str, float, float]] = []
        self._made: dict[tuple[float, float], np.ndarray] = {}
        began = 0.0
        for step in request.steps:
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
