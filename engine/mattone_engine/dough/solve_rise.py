"""The yeast or the hours that bring a dough to its best in time."""

from __future__ import annotations

import math

import numpy as np
from scipy.optimize import minimize_scalar

from mattone_engine.dough.rise import FermentInput, Rise, constants, dose, gas_for
from mattone_engine.errors import InputError


def end_ratio(request: FermentInput) -> float:
    """Volume over its start of the last stage, at its end."""
    return float(Rise(request).ratio(dose(request), request.speed)[-1])


def solved(request: FermentInput) -> FermentInput:
    """The input with its yeast or its last hours solved for, where that is asked; else as it is."""
    if request.solve == "nothing":
        return request
    last = constants().stage[request.steps[-1].stage]

    if request.solve == "yeast":
        low, high = math.log(0.001), math.log(3.0)
        if end_ratio(request.model_copy(update={"yeast_pct": 3.0})) < last.best:
            raise InputError("steps", "Even 3 % of instant yeast is too slow for these hours; give it longer or a warmer place.")
        if end_ratio(request.model_copy(update={"yeast_pct": 0.001})) > last.best:
            if request.starter_pct > 0.0:
                raise InputError("steps", "The starter alone is too much for these hours; use less of it, shorter hours or a colder place.")
            raise InputError("steps", "Even a trace of yeast goes too far in these hours; use a colder place or shorter hours.")
        off = minimize_scalar(
            lambda ln: _off(request.model_copy(update={"yeast_pct": math.exp(ln)})), bounds=(low, high), method="bounded", options={"xatol": 1e-3}
        )
        return request.model_copy(update={"yeast_pct": math.exp(float(off.x)), "solve": "nothing"})

    def stretched(hours: float) -> FermentInput:
        return request.model_copy(update={"steps": (*request.steps[:-1], request.steps[-1].model_copy(update={"hours": hours}))})

    low, high = 0.1, 120.0
    if end_ratio(stretched(high)) < last.best:
        raise InputError("steps", "The last step never gets there: it is too cold or the yeast too little; warm it or give more yeast.")
    if end_ratio(stretched(low)) > last.best:
        raise InputError("steps", "The dough is past its best before its last step begins; shorten the step before, or use less yeast.")
    for _ in range(40):
        mid = 0.5 * (low + high)
        low, high = (mid, high) if end_ratio(stretched(mid)) < last.best else (low, mid)
    return stretched(0.5 * (low + high)).model_copy(update={"solve": "nothing"})


def _off(request: FermentInput) -> float:
    """How far a dose is from right: the last stage from its best, and any earlier one beyond its own."""
    rise, yeast = Rise(request), dose(request)
    total = 0.0
    made = rise.made(yeast, request.speed)
    for stage in rise.stages:
        kind, from_h, to_h = stage
        grown = max(1e-6, float(np.interp(to_h, rise.t_h, made) - np.interp(from_h, rise.t_h, made)))
        off = math.log(grown / gas_for(constants().stage[kind].best))
        # A bulk that is divided young is no fault; one that is past its best is.
        total += off**2 if stage == rise.stages[-1] else max(0.0, off) ** 2
    return total
