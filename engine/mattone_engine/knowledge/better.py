"""What an observation makes of what was known."""

from __future__ import annotations

import math

from mattone_engine.things.knowledge import GENERAL, Belief, Knowledge, ShareBelief

# A reading of the deck at launch takes so much of the dial's part away.
LEFT_BY_DECK_READING = 0.3
# A calibration of which only the figures were kept: how well such a one usually knows dial and power.
USUAL_DIAL_K = 4.0
USUAL_POWER = 0.10


def after_deck_reading(known: Knowledge) -> Knowledge:
    """The deck was read at launch: what the dial does shows in it."""
    return known.model_copy(update={"dial_k": Belief(mean=known.dial_k.mean, spread=known.dial_k.spread * LEFT_BY_DECK_READING)})


def after_calibration(dial_k: float | None = None, power: float | None = None, known: Knowledge = GENERAL) -> Knowledge:
    """A log of this hearth was put to use. dial_k, power: half-widths of 80 %, in K and as a share; None: as usual.

    The means are what the hearth is planned with from now on. Nothing is known worse than before.
    """
    dial = USUAL_DIAL_K if dial_k is None else dial_k
    share = USUAL_POWER if power is None else power
    return known.model_copy(
        update={
            "dial_k": Belief(spread=min(known.dial_k.spread, dial)),
            "power_ln": ShareBelief(spread=min(known.power_ln.spread, math.log1p(max(0.0, share)))),
        }
    )
