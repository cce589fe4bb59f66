"""What keeps a rig from a better word, in one line."""

from __future__ import annotations

import math

import numpy as np

from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.search import Search
from mattone_engine.bake.verdict import HEAT_FREE_K, MADE, handled, heat_of, rank_of
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import GUMMY_KG_M2
from mattone_engine.things.text import celsius


def hindrance(found: Candidate, search: Search) -> str:
    """What holds the crust back, or what the style would rather be made on, in one line; empty where nothing does."""
    if found.no_pull:
        return found.no_pull
    if found.rank == MADE:
        return ""
    if found.misfit > rank_of(found.score):
        told = (search.misfit, handled(search.request, found.controls))
        return max(told, key=lambda one: one.rank).why
    return _of_crust(found, search)


def _of_crust(found: Candidate, search: Search) -> str:
    """What holds the crust back most, in one line."""
    target, known = search.target, search.style
    base_off, rim_off = found.base_l - target.base, found.rim_l - target.rim
    if (unready := _not_ready(found, search, base_off)) is not None:
        return unready
    heat_c = heat_of(search.request, found.controls, found.deck_c)
    what = "deck" if search.request.pan is None else "air"
    if heat_c < known.deck_c[0] - HEAT_FREE_K:
        return f"{what} {celsius(heat_c)}, wants {celsius(known.deck_c[0])}"
    if found.loss_pct > target.loss_pct + 3.5:
        return f"dries out: {found.loss_pct:.0f} % lost"
    if base_off > 5.0 and base_off > rim_off:
        return "base lags behind the rim"
    if rim_off > 5.0:
        return "rim stays pale"
    if base_off < -5.0:
        return "base runs ahead"
    if rim_off < -5.0:
        return "rim runs ahead"
    if found.wet_kg_m2 > GUMMY_KG_M2:
        return "gummy under the sauce"
    if found.done.t_s > 1.25 * known.bake_s[1]:
        return "takes long"
    if found.done.t_s < 0.8 * known.bake_s[0]:
        return "done very soon"
    if heat_c > known.deck_c[1] + HEAT_FREE_K:
        return f"{what} {celsius(heat_c)}, wants {celsius(known.deck_c[1])} at most"
    return _nearly(found, search)


# A base so pale under a top element, L*, on a deck that would get so much hotter, K, was launched too soon.
PALE_BASE_L, STILL_RISING_K, NEAR_END_K = 5.0, 15.0, 8.0
# So much longer is looked ahead, in such steps, min.
AHEAD_MIN, STEP_MIN = 45.0, 5.0


def _not_ready(found: Candidate, search: Search, base_off_l: float) -> str | None:
    """A strong element over a deck that is still cool: how much longer to heat it, and to what; None where that is not what holds it back."""
    c, request = found.controls, search.request
    if c.top_element is None or base_off_l < PALE_BASE_L or not request.has_deck or request.fire is not None:
        return None
    longer = heat_up(bake_of(request, c.model_copy(update={"preheat_min": min(180.0, c.preheat_min + AHEAD_MIN), "top_element": None})))
    at_launch_s = 60.0 * c.preheat_min
    now_c, end_c = float(np.interp(at_launch_s, longer.t_s, longer.deck_c)), float(longer.deck_c[-1])
    if end_c - now_c < STILL_RISING_K:
        return None
    there_s = float(longer.t_s[int(np.argmax(longer.deck_c >= end_c - NEAR_END_K))])
    minutes = STEP_MIN * max(1, math.ceil((there_s - at_launch_s) / 60.0 / STEP_MIN))
    return f"not ready: heat it {minutes:.0f} min longer, until the deck is near {celsius(end_c - NEAR_END_K)}"


def _nearly(found: Candidate, search: Search) -> str:
    """What is least right where nothing is far off."""
    target = search.target
    off = {
        "base a little pale": found.base_l - target.base,
        "base a little dark": target.base - found.base_l,
        "rim a little pale": found.rim_l - target.rim,
        "rim a little dark": target.rim - found.rim_l,
        "a little dry": 2.0 * (found.loss_pct - target.loss_pct),
        "takes a little long": 10.0 * (found.done.t_s / search.style.bake_s[1] - 0.8),
    }
    return max(off, key=lambda word: off[word])
