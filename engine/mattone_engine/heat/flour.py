"""What a pinch of flour on a deck tells of its temperature: the oldest thermometer."""

from __future__ import annotations

import math

from mattone_engine.heat.colour import word_centre
from mattone_engine.heat.column import browning_rate
from mattone_engine.heat.layout import CRUST_END_L, L_START, TOWARDS_END
from mattone_engine.heat.parameters import parameter_values

# A pinch lies in grains: it is as hot as the deck after so long, s.
WARM_UP_S = 4.0
# Between these a pinch of flour tells a deck, C.
COLDEST_C, HOTTEST_C = 150.0, 500.0
# So fast a plateau, 1/s, is none.
NO_PLATEAU = 1e6


def flour_golden_s(deck_c: float) -> float:
    """Seconds until dry flour on a deck at deck_c is golden, by the browning law (Purlis & Salvadori 2009).

    Grains lie open: the plateau of a crust, which its own moisture and thickness hold back, is not theirs.
    """
    values = parameter_values()
    rate = float(browning_rate(deck_c, values["aw_floor"], TOWARDS_END * values["brown"], NO_PLATEAU))
    return WARM_UP_S + math.log((L_START - CRUST_END_L) / (word_centre("golden") - CRUST_END_L)) / rate


def flour_deck_c(golden_s: float) -> float:
    """The deck at which a pinch of flour is golden after golden_s: the inverse of `flour_golden_s`, from COLDEST_C to HOTTEST_C."""
    low_c, high_c = COLDEST_C, HOTTEST_C
    # The hotter, the sooner: halve what lies between until it is known to a tenth of a degree.
    while high_c - low_c > 0.1:
        middle_c = 0.5 * (low_c + high_c)
        if flour_golden_s(middle_c) > golden_s:
            low_c = middle_c
        else:
            high_c = middle_c
    return round(0.5 * (low_c + high_c), 1)
