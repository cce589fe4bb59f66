"""Preheat as an answer of its own: how hot the deck is when, and when it is hot enough."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field, model_validator

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.result import PreheatTrace
from mattone_engine.heat.preheat import preheat
from mattone_engine.things import Hearth, Pan, Surface, deck_of
from mattone_engine.things.base import StrictModel


class PreheatInput(StrictModel):
    """The JSON of `./mattone engine preheat`. `wanted_deck_c` asks when the deck's face gets there.

    A pan heats on the surface, or on the rack in its stead; without a surface the pan is asked about.
    """

    hearth: Hearth
    surface: Surface | None = None
    pan: Pan | None = None
    minutes: Annotated[float, Field(ge=1, le=240)] = 90.0
    wanted_deck_c: Annotated[float, Field(ge=30, le=550)] | None = None

    @model_validator(mode="after")
    def heats_a_deck(self) -> PreheatInput:
        if deck_of(self.surface) is None and self.pan is None:
            raise ValueError("there is nothing to heat; give a surface or a pan.")
        if self.hearth.is_flame:
            raise ValueError(f"a {self.hearth.traits.word} has no thermostat to follow; read its floor instead.")
        return self


class PreheatResult(StrictModel):
    """Deck and air against time; when the deck settles and when it is as wanted (null: never)."""

    trace: PreheatTrace
    settled_deck_c: float
    settles_min: float
    wanted_min: float | None
    engine: str


def heating(request: PreheatInput) -> PreheatResult:
    """Heat the deck for `minutes` from room temperature.

    It settles when the face comes within 5 K of where it is after four hours.
    """
    surface = deck_of(request.surface)
    long = preheat(request.hearth, surface, max(240.0, request.minutes), pan=request.pan)
    face_c = long.deck_c if surface is not None or long.pan_trace_c is None else long.pan_trace_c
    settled = float(face_c[-60:].mean())
    shown = long.t_s <= request.minutes * 60.0 + 1e-6
    pan_c = None if long.pan_trace_c is None else _list(long.pan_trace_c[shown])
    return PreheatResult(
        trace=PreheatTrace(t_s=_list(long.t_s[shown]), deck_c=_list(face_c[shown]), air_c=_list(long.air_c[shown]), pan_c=pan_c),
        settled_deck_c=round(settled, 1),
        settles_min=round(_reached_s(long.t_s, face_c, settled - 5.0) / 60.0, 1),
        wanted_min=_wanted_min(long.t_s[shown], face_c[shown], request.wanted_deck_c),
        engine=ENGINE_VERSION,
    )


def _wanted_min(t_s: np.ndarray, deck_c: np.ndarray, wanted_c: float | None) -> float | None:
    if wanted_c is None or float(deck_c.max()) < wanted_c:
        return None
    return round(_reached_s(t_s, deck_c, wanted_c) / 60.0, 1)


def _reached_s(t_s: np.ndarray, deck_c: np.ndarray, c: float) -> float:
    index = max(1, int(np.argmax(deck_c >= c)))
    return float(np.interp(c, deck_c[index - 1 : index + 1], t_s[index - 1 : index + 1]))


def _list(values: np.ndarray) -> list[float]:
    return [round(float(value), 1) for value in values]
