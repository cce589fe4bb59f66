"""A reading of the deck that looks as if it was entered in the wrong unit: it is asked about, and set aside until it is read again."""

from __future__ import annotations

import numpy as np

from mattone_engine.bake.limits import limits_of
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.preheat import Preheat
from mattone_engine.live.happened import planned
from mattone_engine.live.journal import LiveInput, Reading
from mattone_engine.things.text import celsius

# No deck gets so much hotter than its oven's hottest setting, K; a reading so far from the plan may be of the other unit.
ABOVE_K, FAR_K = 60.0, 60.0
# In the other unit it is as planned, within so much, K.
NEAR_K = 35.0


def without_misread(request: LiveInput) -> tuple[LiveInput, list[Reading]]:
    """The request without readings that look like the wrong unit, and those readings. Two that agree are believed."""
    readings = request.journal.readings
    if not readings or request.earlier:
        return request, []
    spec = planned(request)
    heated, hottest_c = heat_up(spec), limits_of(request.plan).hottest_c
    found = [one for one in readings if meant_c(one, heated, hottest_c) is not None]
    if not found or len(found) > 1:
        return request, []
    journal = request.journal.model_copy(update={"readings": tuple(one for one in readings if one is not found[0])})
    return request.model_copy(update={"journal": journal}), found


def meant_c(reading: Reading, heated: Preheat, hottest_c: float) -> float | None:
    """What a reading says if it was entered in the other unit, C; None where it makes sense as it is, or in neither."""
    if reading.by == "flour":
        # Seconds have no other unit.
        return None
    expected_c = float(np.interp(reading.since_heat_s, heated.t_s, heated.deck_c))
    from_f, from_c = (reading.deck_c - 32.0) / 1.8, 1.8 * reading.deck_c + 32.0
    if reading.deck_c > hottest_c + ABOVE_K and from_f <= hottest_c + ABOVE_K:
        return from_f
    if abs(reading.deck_c - expected_c) > FAR_K and min(abs(from_f - expected_c), abs(from_c - expected_c)) <= NEAR_K:
        return min((from_f, from_c), key=lambda value: abs(value - expected_c))
    return None


def asked(request: LiveInput, misread: list[Reading]) -> list[str]:
    """The question about each."""
    if not misread:
        return []
    heated, hottest_c = heat_up(planned(request)), limits_of(request.plan).hottest_c
    found = []
    for one in misread:
        meant = meant_c(one, heated, hottest_c)
        if meant is not None:
            found.append(
                f"Was the deck really at {celsius(one.deck_c)}? In the other unit it would be {celsius(meant)}, about as planned. "
                "It is not used yet: take it back and enter it again, or read the deck once more."
            )
    return found
