"""How long a hearth heats until its deck stands where it settles."""

from __future__ import annotations

import math
from functools import lru_cache

from mattone_engine.heat.preheat import preheat
from mattone_engine.things import Hearth, Surface, deck_of

LONGEST_PREHEAT_MIN = 75
NEAR_PLATEAU_K = 8.0


@lru_cache(maxsize=512)
def settle_minutes(hearth: Hearth, surface: Surface | None) -> float:
    """Preheat that brings the deck's face within 8 K of where it settles, in steps of 5 min.

    Without a deck: until the liner has caught up with the air.
    """
    if deck_of(surface) is None:
        heated = preheat(hearth, None, LONGEST_PREHEAT_MIN)
        values, within = heated.air_c, 14.0
    else:
        heated = preheat(hearth, surface, LONGEST_PREHEAT_MIN)
        values, within = heated.deck_c, NEAR_PLATEAU_K
    settled = float(values[-60:].mean())
    reached = int((values >= settled - within).argmax())
    minutes = heated.t_s[reached] / 60.0
    return float(min(LONGEST_PREHEAT_MIN, max(15.0, 5.0 * math.ceil(minutes / 5.0))))
