"""Fit a hearth to the log of one preheat: how far its dial lies, how strong and how tight it is."""

from __future__ import annotations

import math
from typing import Annotated

import numpy as np
from pydantic import Field, model_validator
from scipy.optimize import least_squares

from mattone_engine import ENGINE_VERSION
from mattone_engine.errors import InputError
from mattone_engine.heat.preheat import preheat
from mattone_engine.knowledge.truths import Z80
from mattone_engine.learn.log import Log, read_log
from mattone_engine.things import Hearth, Surface, deck_of
from mattone_engine.things.base import StrictModel

# On sixty drawn ovens the bare intervals of least squares held for two thirds instead of four fifths, and the power was found 5 % high
# with as much spread, because a log shows it only until the thermostat first cuts out. What is promised includes both.
STRETCH, POWER_LN = 1.3, 0.085
# What is believed of power, loss and deck coupling before the log: ln spread.
PRIOR_LN = 0.20
# A thermometer in an oven is no better than this, K.
READING_K = 2.0
SETTLED_K_MIN = 0.8
CONTRADICTS_K = 12.0


class CalibrateInput(StrictModel):
    """The JSON of `./mattone engine calibrate`: the hearth as it was set, its deck, and the log as text."""

    hearth: Hearth
    surface: Surface | None = None
    csv: Annotated[str, Field(max_length=400_000)]

    @model_validator(mode="after")
    def has_a_dial(self) -> CalibrateInput:
        if self.hearth.is_flame:
            raise ValueError(f"a {self.hearth.traits.word} has no dial to check.")
        return self


class Found(StrictModel):
    """A fitted value with the half-width of its 80 % interval."""

    value: float
    plus_minus: float


class Curve(StrictModel):
    """Measured and fitted against seconds; null where nothing was read."""

    t_s: list[float]
    deck_c: list[float | None]
    air_c: list[float | None]
    fitted_deck_c: list[float]
    fitted_air_c: list[float]


class CalibrateResult(StrictModel):
    """What the log says of the hearth. Factors are against a usual oven of its kind.

    `trust` is "good", "short" (it had not settled) or "contradictory" (no oven fits it); `say`
    tells the cook.
    """

    dial_error_k: Found
    power_kw: Found
    loss_factor: Found
    deck_factor: Found
    residual_k: float
    readings: int
    dropped: int
    trust: str
    say: str
    curve: Curve
    engine: str


def _refuse_other_units(log: Log, setpoint_c: float) -> None:
    """Say so where readings look like Fahrenheit under a heading of Celsius, or time like counting down."""
    for values in (log.deck_c, log.air_c):
        seen = values[np.isfinite(values)]
        if seen.size < 4:
            continue
        hottest, as_f = float(seen.max()), (float(seen.max()) - 32.0) / 1.8
        if hottest > setpoint_c + 90.0 and abs(as_f - setpoint_c) < 60.0:
            raise InputError(
                "csv", f"Readings up to {hottest:.0f} with the dial at {{{setpoint_c:g} C}} look like Fahrenheit; write F into the heading, as deck F."
            )
        third = max(1, seen.size // 3)
        if float(seen[:third].mean()) > float(seen[-third:].mean()) + 60.0:
            raise InputError("csv", "The log begins hot and ends cold: is its time counted down, or is it the oven cooling? Give the preheat, time rising.")


def calibrate(request: CalibrateInput) -> CalibrateResult:
    """Least squares on the preheat model; raises InputError where the log cannot be read."""
    log = read_log(request.csv)
    _refuse_other_units(log, request.hearth.setpoint_c)
    hearth = request.hearth.model_copy(update={"dial_error_k": 0.0, "loss_factor": 1.0, "deck_factor": 1.0})
    surface = deck_of(request.surface)
    minutes = max(1.0, float(log.t_s[-1]) / 60.0)

    def heated(u: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        result = preheat(_with(hearth, u), surface, minutes)
        return np.interp(log.t_s, result.t_s, result.deck_c), np.interp(log.t_s, result.t_s, result.air_c)

    use_deck = surface is not None and np.isfinite(log.deck_c).sum() >= 4

    def misses(deck: np.ndarray, air: np.ndarray) -> np.ndarray:
        off = [(air - log.air_c)[np.isfinite(log.air_c)]]
        if use_deck:
            off.append((deck - log.deck_c)[np.isfinite(log.deck_c)])
        return np.concatenate(off)

    def residuals(u: np.ndarray) -> np.ndarray:
        every = misses(*heated(u))
        # Readings follow each other closely: a log of many counts as one of about sixty.
        weight = math.sqrt(min(1.0, 60.0 / max(1, every.size))) / READING_K
        return np.concatenate([every * weight, u[1:] / PRIOR_LN, [u[0] / 40.0]])

    fit = least_squares(
        residuals,
        np.zeros(4),
        bounds=([-60.0, -0.6, -0.6, -0.6], [60.0, 0.6, 0.6, 0.6]),
        diff_step=[1e-2, 1e-2, 1e-2, 1e-2],
        x_scale=[10.0, 0.1, 0.1, 0.1],
        loss="soft_l1",
    )
    deck, air = heated(fit.x)
    off = misses(deck, air)
    residual_k = float(np.sqrt(np.mean(off**2))) if off.size else 0.0
    covariance = np.linalg.pinv(fit.jac.T @ fit.jac) * max(1.0, (residual_k / READING_K) ** 2)
    spread = STRETCH * Z80 * np.sqrt(np.maximum(np.diag(covariance), 0.0))
    spread[1] = math.hypot(spread[1], POWER_LN)
    settled = _slope_k_min(log) < SETTLED_K_MIN
    trust = "contradictory" if residual_k > CONTRADICTS_K else "good" if settled else "short"
    found = _with(hearth, fit.x)
    dial = Found(value=round(found.dial_error_k, 1), plus_minus=round(float(spread[0]) * (1.0 if settled else 2.0), 1))
    return CalibrateResult(
        dial_error_k=dial,
        power_kw=_factor(found.power_kw, spread[1]),
        loss_factor=_factor(found.loss_factor, spread[2]),
        deck_factor=_factor(found.deck_factor, spread[3]),
        residual_k=round(residual_k, 1),
        readings=int(log.t_s.size),
        dropped=log.dropped,
        trust=trust,
        say=_say(trust, dial, residual_k, minutes),
        curve=_curve(log, deck, air),
        engine=ENGINE_VERSION,
    )


def _with(hearth: Hearth, u: np.ndarray) -> Hearth:
    """The hearth with offset u[0] in K and the logarithms of power, loss and deck coupling."""
    power = min(6.0, max(0.5, hearth.power_kw * math.exp(u[1])))
    return hearth.model_copy(update={"dial_error_k": float(u[0]), "power_kw": power, "loss_factor": math.exp(u[2]), "deck_factor": math.exp(u[3])})


def _factor(value: float, spread_ln: float) -> Found:
    return Found(value=round(value, 2), plus_minus=round(value * math.expm1(float(spread_ln)), 2))


def _slope_k_min(log: Log) -> float:
    """How fast the hotter of the two still moved over the last eight minutes."""
    late = log.t_s >= log.t_s[-1] - 480.0
    if log.t_s[-1] < 1200.0 or late.sum() < 3:
        return 9.9
    slopes = []
    for values in (log.deck_c, log.air_c):
        known = late & np.isfinite(values)
        if known.sum() >= 3:
            slopes.append(abs(float(np.polyfit(log.t_s[known] / 60.0, values[known], 1)[0])))
    return max(slopes) if slopes else 9.9


def _say(trust: str, dial: Found, residual_k: float, minutes: float) -> str:
    if trust == "contradictory":
        return (
            f"No oven of this kind heats like that: the fit is off by {{{residual_k:.0f} K}} on average. "
            "Was the door opened, the dial turned, or another surface in it?"
        )
    way = "hotter" if dial.value > 0 else "cooler"
    size = abs(dial.value)
    text = "The dial is right" if size < 2.0 else f"The oven is really {{{size:.0f} K}} {way} than its dial"
    text += f", give or take {{{dial.plus_minus:.0f} K}}."
    if trust == "short":
        text += f" The log of {minutes:.0f} min ends before the deck had settled: log on until it does."
    return text


def _curve(log: Log, deck: np.ndarray, air: np.ndarray) -> Curve:
    step = max(1, log.t_s.size // 240)

    def result(values: np.ndarray) -> list[float | None]:
        return [round(float(v), 1) if math.isfinite(v) else None for v in values[::step]]

    return Curve(
        t_s=[round(float(t), 1) for t in log.t_s[::step]],
        deck_c=result(log.deck_c),
        air_c=result(log.air_c),
        fitted_deck_c=[round(float(v), 1) for v in deck[::step]],
        fitted_air_c=[round(float(v), 1) for v in air[::step]],
    )
