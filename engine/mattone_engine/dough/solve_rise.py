"""The yeast or the hours that bring a dough to its best in time."""

from __future__ import annotations

import math

import numpy as np
from scipy.optimize import minimize_scalar

from mattone_engine.dough.rise import FermentInput, Rise, dose, gas_for
from mattone_engine.errors import InputError

MOST_YEAST_PCT, LEAST_YEAST_PCT = 3.0, 0.001
MOST_STARTER_PCT, LEAST_STARTER_PCT = 60.0, 0.5
# Up to here a dough may be used up by a dose that is solved for: what nobody knows needs room too.
WORN_AIM = 0.8
# Moments a dough is worked out at while something is solved for.
POINTS = 700


def falls_short(request: FermentInput) -> bool:
    """Whether the last stage of this dough ends before its best."""
    rise, yeast = Rise(request, most_points=POINTS), dose(request)
    stage = rise.stages[-1]
    return rise.at_end(stage, yeast, request.speed) < rise.marks(stage, yeast, request.speed)[1]


def solved(request: FermentInput) -> FermentInput:
    """The input with its yeast, starter or last hours solved for, where that is asked; else as it is."""
    if request.solve == "nothing":
        return request
    if request.solve == "last":
        return _stretched(request)
    return _dosed(request, "yeast_pct" if request.solve == "yeast" else "starter_pct")


def _dosed(request: FermentInput, name: str) -> FermentInput:
    low, high = (LEAST_YEAST_PCT, MOST_YEAST_PCT) if name == "yeast_pct" else (LEAST_STARTER_PCT, MOST_STARTER_PCT)
    rise = Rise(request, most_points=POINTS)

    def having(amount: float) -> FermentInput:
        return request.model_copy(update={name: amount})

    # A dose too large starves the last stage as one too small does, so the whole range is looked at before it is refined.
    tried = np.linspace(math.log(low), math.log(high), 25)
    offs = [_off(rise, dose(having(math.exp(ln)))) for ln in tried]
    i = int(np.argmin(offs))
    around = (float(tried[max(0, i - 1)]), float(tried[min(tried.size - 1, i + 1)]))
    off = minimize_scalar(lambda ln: _off(rise, dose(having(math.exp(ln)))), bounds=around, method="bounded", options={"xatol": 1e-3})
    found = having(math.exp(float(off.x)))
    used = float(np.interp(rise.stages[-1].to_h, rise.t_h, rise.worn(dose(found), request.speed)))
    if i == tried.size - 1 and used < 1.0 and falls_short(found):
        what = "3 % of instant yeast" if name == "yeast_pct" else "60 % of starter"
        raise InputError("steps", f"Even {what} is too slow for these hours; give it longer or a warmer place.{_would_take(request, name)}")
    if used > 1.0 and float(rise.worn(dose(having(low)), request.speed)[-1]) > 1.0:
        if name == "yeast_pct" and request.starter_pct > 0.0:
            raise InputError("steps", "The starter alone is too much for these hours; use less of it, shorter hours or a colder place.")
        raise InputError("steps", "Even a trace of it goes too far in these hours; use a colder place or shorter hours.")
    return found.model_copy(update={"solve": "nothing"})


def _would_take(request: FermentInput, name: str) -> str:
    """How long the last step would be with a usual dose, as a way out."""
    usual = 1.0 if name == "yeast_pct" else 20.0
    try:
        hours = _stretched(request.model_copy(update={name: usual, "solve": "last"})).steps[-1].hours
    except InputError:
        return ""
    return f" With {usual:g} % its last step would take about {hours:.0f} h."


def _stretched(request: FermentInput) -> FermentInput:
    """The last step as long as its stage takes to its best."""

    def stretched(hours: float) -> FermentInput:
        return request.model_copy(update={"steps": (*request.steps[:-1], request.steps[-1].model_copy(update={"hours": hours}))})

    low, high = 0.1, 120.0
    rise, yeast = Rise(stretched(high)), dose(request)
    stage = rise.stages[-1]
    volumes = rise.alone(stage.from_h, yeast, request.speed)
    best = rise.marks(stage, yeast, request.speed)[1]
    there = (rise.t_h >= stage.from_h) & (volumes >= best)
    if not there.any():
        raise InputError("steps", "The last step never gets there: it is too cold or the yeast too little; warm it or give more yeast.")
    began = sum(step.hours for step in request.steps[:-1])
    i = int(np.argmax(there))
    at = float(np.interp(best, volumes[i - 1 : i + 1], rise.t_h[i - 1 : i + 1]) if i else rise.t_h[0]) - began
    if at < low:
        raise InputError("steps", "The dough is past its best before its last step begins; shorten the step before, or use less yeast.")
    return stretched(at).model_copy(update={"solve": "nothing"})


def _off(rise: Rise, yeast: float) -> float:
    """How far a dose is from right: the last stage from its best, any earlier one beyond its own, and all of it from used up."""
    speed, total = rise.request.speed, 0.0
    for stage in rise.stages:
        held = gas_for(max(1.0 + 1e-6, rise.at_end(stage, yeast, speed)), rise.holds)
        off = math.log(held / gas_for(rise.marks(stage, yeast, speed)[1], rise.holds))
        # A bulk that is divided young is no fault; one that is past its best is.
        total += off**2 if stage == rise.stages[-1] else max(0.0, off) ** 2
    used = float(np.interp(rise.stages[-1].to_h, rise.t_h, rise.worn(yeast, speed)))
    return total + 4.0 * max(0.0, math.log(max(1e-9, used) / WORN_AIM)) ** 2
