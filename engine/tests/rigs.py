"""Rigs the engine's tests share."""

from __future__ import annotations

from typing import Any

from mattone_engine.heat.outcome import Done, Series, likely_done, series, wanted
from mattone_engine.heat.run import Bake
from mattone_engine.styles import style
from mattone_engine.things import Dough, Hearth, SimulateInput, Surface, Toppings


def bake_on(surface: Surface | None = None, **changes: Any) -> SimulateInput:
    """A home-oven round in an ordinary oven; name what differs."""
    given: dict[str, Any] = {
        "hearth": Hearth(setpoint_c=260, level=3),
        "surface": surface if surface is not None else Surface(kind="stone", thickness_mm=15, deck_c=262),
        "dough": Dough(mass_g=250, area_cm2=707),
        "toppings": Toppings(mass_g=160),
    }
    return SimulateInput(**(given | changes))


def played(spec: SimulateInput, until_s: float = 720.0, *, refine: int = 1) -> tuple[Done, Series, Bake]:
    bake = Bake(spec, refine=refine)
    bake.advance_to(until_s)
    result = series(bake.trace())
    return likely_done(result, wanted(style(spec.style), spec.target)), result, bake
