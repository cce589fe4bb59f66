"""The board: how near each rig of a kitchen comes to each style, and what would help most.

A cell is searched like a plan, but with few controls and quick bakes: enough to say a word and a
time. Opening it as a plan searches again, finely.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

from pydantic import Field

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.controls import Controls, Span
from mattone_engine.bake.finishing import SHORTEST_LIT_S
from mattone_engine.bake.methods import method_of
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.plan import verdict
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.search import Search
from mattone_engine.bake.text import celsius
from mattone_engine.errors import InputError
from mattone_engine.heat.colour import colour_word
from mattone_engine.heat.outcome import GUMMY_KG_M2, PALE_L
from mattone_engine.styles import Style, styles
from mattone_engine.things import Dough, Toppings
from mattone_engine.things.base import StrictModel
from mattone_engine.things.dough import LARGEST_CM2
from mattone_engine.things.rig import Reach, Rig, allowed

TOP_ELEMENT_S = (SHORTEST_LIT_S, 120.0)


# What a head eats, as dough or, where it is thin, as a plate full; a pizza's rest before the knife; the usual wait between two, in minutes.
DOUGH_A_HEAD_G = 240.0


AREA_A_HEAD_CM2 = 700.0


REST_MIN = 2.5


BETWEEN_MIN = {"deck": 6.0, "fire": 3.0, "rack": 2.0}


class MatchRig(Rig):
    """A rig of the board. pan_area_cm2 is the pan's inside."""

    key: Annotated[str, Field(min_length=1, max_length=60)]
    pan_area_cm2: Annotated[float, Field(ge=50, le=LARGEST_CM2)] | None = None


class MatchInput(StrictModel):
    """The JSON of `./mattone engine match` and `help_most`. Without styles: all, and the own ones."""

    rigs: Annotated[tuple[MatchRig, ...], Field(min_length=1, max_length=40, strict=False)]
    styles: Annotated[tuple[Annotated[str, Field(max_length=40)], ...], Field(max_length=40, strict=False)] = ()
    own_styles: Annotated[tuple[Style, ...], Field(max_length=20, strict=False)] = ()
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0


class Cell(StrictModel):
    """One style on one rig at its best."""

    style: str
    rig: str
    word: str
    score: float
    likely_done_s: float
    method: str
    reason: str
    base_l: float
    rim_l: float
    cheese_l: float
    base_word: str
    rim_word: str
    dry_mm: float
    loss_pct: float
    deck_c: float
    # How many one piece feeds; minutes from heat on to the first on the table, and between two more.
    feeds: float
    first_min: float
    next_min: float
    controls: Controls


class MatchResult(StrictModel):
    """Cells in the order of styles, then rigs; combinations that make no sense are left out."""

    styles: list[str]
    cells: list[Cell]
    engine: str


def match(request: MatchInput) -> MatchResult:
    """Every sensible cell of the board."""
    known = asked_styles(request)
    pairs = [(one, rig) for one in known for rig in request.rigs if makes_sense(one, rig)]
    cells = in_parallel(lambda pair: cell(pair[0], pair[1], request.altitude_m), pairs)
    return MatchResult(styles=[one.key for one in known], cells=cells, engine=ENGINE_VERSION)


def asked_styles(request: MatchInput) -> list[Style]:
    """The styles asked about: by their keys, or all there are and the cook's own."""
    there = {**styles(), **{own.key: own for own in request.own_styles}}
    unknown = [key for key in request.styles if key not in there]
    if unknown:
        raise InputError("styles", f"There is no style called {unknown[0]}; choose from {', '.join(there)}.")
    return [there[key] for key in request.styles] or list(there.values())


def makes_sense(known: Style, rig: MatchRig) -> bool:
    """Whether a cook would try."""
    return allowed(known, rig, piece_cm2(known, rig.pan_area_cm2)).reach is Reach.BOARD


def plan_input(known: Style, rig: MatchRig, altitude_m: float) -> PlanInput:
    """The style's own dough on this rig, spread to the pan where there is one."""
    dough, toppings = portion(known, rig.pan_area_cm2)
    built_in = known.key in styles()
    return PlanInput(
        hearth=rig.hearth,
        surface=rig.surface,
        pan=rig.pan,
        dough=dough,
        toppings=toppings,
        style=known.key if built_in else "home_oven_round",
        own_style=None if built_in else known,
        altitude_m=altitude_m,
        coating_limit_c=rig.coating_limit_c,
        hob_kw=rig.hob_kw,
        knowledge=rig.knowledge,
    )


def portion(known: Style, pan_area_cm2: float | None, load: float = 1.0) -> tuple[Dough, Toppings]:
    """The style's piece of dough and its toppings; a pan style fills the pan."""
    dough, toppings = known.dough(), known.toppings(load)
    if known.shape == "pan" and pan_area_cm2 is not None:
        share = pan_area_cm2 / dough.area_cm2
        dough = dough.model_copy(update={"mass_g": round(dough.mass_g * share, 1), "area_cm2": round(pan_area_cm2, 1)})
        toppings = toppings.model_copy(update={"mass_g": round(toppings.mass_g * share, 1)})
    return dough, toppings


def piece_cm2(known: Style, pan_area_cm2: float | None) -> float:
    """The size of one piece: a pan style fills its pan."""
    return pan_area_cm2 if known.shape == "pan" and pan_area_cm2 is not None else known.area_cm2


def feeds(dough: Dough) -> float:
    """How many one such piece feeds."""
    return max(dough.mass_g / DOUGH_A_HEAD_G, dough.area_cm2 / AREA_A_HEAD_CM2)


# The board and what would help ask for the same rigs.
@lru_cache(maxsize=1024)
def best_of(request: PlanInput) -> tuple[Candidate, Search]:
    """A short search that goes where the last bake points: few bakes a cell, enough for a word."""
    search = Search(request)
    found = _best_over_fire(search) if request.fire is not None else _best_in_oven(search)
    return found, search


def _best_in_oven(search: Search) -> Candidate:
    """Middle and low at full heat; then up, cooler, or the element on, by what lags or runs ahead."""
    request, target = search.request, search.target
    limits, high = request.hearth, search.limits.hottest_c
    middle = (limits.levels + 1) // 2
    tried = [search.at(high, level) for level in sorted({1, middle})]
    best = min(tried, key=lambda c: c.score)
    if best.controls.level == middle and (best.rim_l > target.rim + 1.0 or best.done.limited_by == "core"):
        tried.append(search.at(high, limits.levels))
        best = min(tried, key=lambda c: c.score)
    level = best.controls.level
    dark = min(best.base_l - target.base, best.rim_l - target.rim)
    if dark < -2.0 or best.done.limited_by == "core" or best.done.t_s < search.style.bake_s[0]:
        tried += [search.at(high - less, level) for less in (20.0, 45.0) if high - less >= 180.0]
    if search.limits.may_use_top_element and not search.fan_needed and best.rim_l > target.rim + 1.0:
        tried += [search.at(high, max(level, middle), Span(on_s=0.0, off_s=seconds)) for seconds in TOP_ELEMENT_S]
    if search.limits.may_hob and best.base_l > target.base + 4.0:
        tried.append(search.try_controls(best.controls.model_copy(update={"hob_s": 120.0})))
    return min(tried, key=lambda c: c.score)


def _best_over_fire(search: Search) -> Candidate:
    """Three floors, then another top on the best of them, and a later flip where the bars are bare."""
    fire = search.request.fire
    assert fire is not None
    high, low = search.limits.hottest_c, fire.lowest_c
    flip = 60.0 if search.request.on_grate else None
    tried = [search.over(round(face), fire.dome_usual_k, flip) for face in (high, 0.5 * (high + low), low)]
    best = min(tried, key=lambda c: c.score).controls
    top = fire.dome_high_k if min(tried, key=lambda c: c.score).rim_l > search.target.rim else fire.dome_low_k
    tried.append(search.over(best.setpoint_c, top, flip))
    if flip is not None:
        tried.append(search.over(best.setpoint_c, best.dome_over_k or fire.dome_usual_k, 120.0))
    return min(tried, key=lambda c: c.score)


def cell(known: Style, rig: MatchRig, altitude_m: float) -> Cell:
    """One cell of the board."""
    request = plan_input(known, rig, altitude_m)
    found, search = best_of(request)
    pale = found.base_l > PALE_L or bool(found.no_pull)
    return Cell(
        style=known.key,
        rig=rig.key,
        word="not here" if pale else verdict(found.score),
        score=round(found.score, 3),
        likely_done_s=found.done.t_s,
        method=method_of(request, found.controls),
        reason=reason(found, search, known),
        base_l=round(found.base_l, 1),
        rim_l=round(found.rim_l, 1),
        cheese_l=round(found.cheese_l, 1),
        base_word=colour_word(found.base_l),
        rim_word=colour_word(found.rim_l),
        dry_mm=round(found.dry_mm, 2),
        loss_pct=round(found.loss_pct, 1),
        deck_c=round(found.deck_c, 1),
        feeds=round(feeds(request.dough), 2),
        first_min=round(found.controls.preheat_min + found.done.t_s / 60.0 + REST_MIN, 1),
        next_min=round(found.done.t_s / 60.0 + BETWEEN_MIN["fire" if request.fire is not None else "deck" if request.has_deck else "rack"], 1),
        controls=found.controls,
    )


def reason(found: Candidate, search: Search, known: Style) -> str:
    """What holds the crust back, in one line; empty where nothing does."""
    if found.no_pull:
        return found.no_pull
    target, low = search.target, known.deck_c[0]
    base_off, rim_off = found.base_l - target.base, found.rim_l - target.rim
    if search.request.has_deck and found.deck_c < low - 25.0:
        return f"deck {celsius(found.deck_c)}, wants {celsius(low)}"
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
    return ""
