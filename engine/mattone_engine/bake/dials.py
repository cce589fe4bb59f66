"""Dials that are worth a try."""

from __future__ import annotations

import math

from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.verdict import HEAT_FREE_K, HEAT_STEP_K
from mattone_engine.styles import style_of

# Below the highest dial, K; and no dial lower than this bakes, C.
COOLER_K = (15.0, 30.0, 50.0)
COOLEST_DIAL_C = 180.0
# Below the dial at which a hearth's heat comes into a style's band, K.
BELOW_BAND_K = 20.0


def cooler(request: PlanInput, highest_c: float) -> list[float]:
    """Dials below the highest, C: by steps, and where it is far from there, down into the style's band of heat."""
    error_k, (low, high) = request.hearth.dial_error_k, style_of(request).deck_c
    over_k = highest_c + error_k - high
    into_k = 5.0 * math.ceil(over_k / 5.0)
    steps = [*COOLER_K, *((into_k, into_k + BELOW_BAND_K) if over_k > COOLER_K[-1] else ())]
    coolest_c = max(COOLEST_DIAL_C, low - error_k - HEAT_FREE_K - HEAT_STEP_K)
    return [highest_c - less for less in steps if highest_c - less >= coolest_c]


def by_fives(low_c: float, high_c: float) -> list[float]:
    """Every five degrees from low to high."""
    return [5.0 * i for i in range(math.ceil(low_c / 5.0), math.floor(high_c / 5.0) + 1)]
