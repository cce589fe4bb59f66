"""Is the second pizza of an evening known better than the first? Hidden ovens, whole evenings of two."""

from __future__ import annotations

import math

import numpy as np

from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.plan import plan
from mattone_engine.evidence.live_studies import RIGS, Evening, Stage, evenings
from mattone_engine.live.answer import live
from mattone_engine.live.journal import Earlier, Journal, LiveInput, Reading, Seen
from mattone_engine.live.virtual import Hidden

# Hands are ready for the next one so long after a pull, s.
BETWEEN_S = 300.0
# When the first is looked at, as shares of the pull that was told at its launch.
LOOKED_AT = (0.5, 0.75)


def _two(evening: Evening, seed: int) -> tuple[float, float]:
    """An evening of two: the second's window at its launch, as wide as so much of the first's; where in it the right pull lies (0 to 1 is inside)."""
    request = evening.request
    controls = plan(request).controls
    hidden = Hidden(request, controls, seed)
    events = bake_of(request, controls).events
    launched_s = 60.0 * evening.spec.preheat_min
    readings = (Reading(since_heat_s=launched_s, deck_c=hidden.read(launched_s)),) if evening.spec.has_deck else ()
    told = LiveInput(plan=request, controls=controls, journal=Journal(launched_s=launched_s, readings=readings), now_s=0.0, seed=seed)
    first = live(told).pull
    right_s = hidden.right_pull_s(launched_s, events)
    looks = [share * evening.likely_s for share in LOOKED_AT]
    seen = tuple(Seen(at_s=at_s, **dict(hidden.look(launched_s, events, at_s))) for at_s in looks if at_s < right_s)
    hidden.pull(launched_s, events, right_s)
    before = Earlier(journal=Journal(launched_s=launched_s, readings=readings, seen=seen), pulled_s=launched_s + right_s)
    again_s = before.pulled_s + BETWEEN_S
    second = live(told.model_copy(update={"journal": Journal(launched_s=again_s), "earlier": (before,)})).pull
    assert first is not None and second is not None
    width = math.log(second.high / second.low)
    return width / math.log(first.high / first.low), math.log(hidden.right_pull_s(again_s, events) / second.low) / width


def second_pizzas(hidden: int = 96, seed: int = 23) -> Stage:
    """So many evenings in turn over the rigs: share of the second pizzas inside their windows, and how wide these are against the first's."""
    found = in_parallel(lambda i: _two(evenings()[i % len(RIGS)], seed + i), range(hidden))
    inside, widths = [0.0 <= place <= 1.0 for _, place in found], [width for width, _ in found]
    return Stage("the second pizza, at its launch", 100.0 * float(np.mean(inside)), float(np.mean(widths)))
