"""Lighting a hearth without a dial: how long until its floor is where it is wanted."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from mattone_engine.heat.preheat import Preheat, fire_up
from mattone_engine.things import Hearth, Surface

LONGEST_MIN = 75.0
NEAR_K = 15.0


@lru_cache(maxsize=256)
def lit(hearth: Hearth, surface: Surface | None) -> Preheat:
    """The floor's face against time for LONGEST_MIN, without any reading of it."""
    bare = surface.model_copy(update={"deck_c": None}) if surface is not None else None
    fire = hearth.traits.fire
    assert fire is not None
    return fire_up(hearth, bare, LONGEST_MIN, tau_min=fire.tau_min)


def lit_minutes(hearth: Hearth, surface: Surface | None) -> float:
    """Minutes until the face is within 15 K of where it settles, in steps of 5."""
    result = lit(hearth, surface)
    reached = int(np.argmax(result.deck_c >= result.deck_c[-1] - NEAR_K))
    return max(10.0, 5.0 * math.ceil(float(result.t_s[reached]) / 300.0))


def short_by_k(hearth: Hearth, surface: Surface | None, minutes: float) -> float:
    """How far the face is from where it settles after `minutes` of fire, K; 0 when within 15."""
    result = lit(hearth, surface)
    missing = float(result.deck_c[-1] - np.interp(minutes * 60.0, result.t_s, result.deck_c))
    return missing if missing > NEAR_K else 0.0
