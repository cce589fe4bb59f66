"""What keeps a rig from a better word, in one line."""

from __future__ import annotations

from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.search import Search
from mattone_engine.bake.verdict import HEAT_FREE_K, MADE, handled, heat_of, rank_of
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
