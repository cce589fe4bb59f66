"""The board: how near each rig of a kitchen comes to each style, and what would help most.

A cell is searched like a plan, but with few controls and quick bakes: enough to say a word and a
time. Opening it as a plan searches again, finely.
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Annotated

from pydantic import Field

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.controls import Controls, Span
from mattone_engine.bake.dials import cooler
from mattone_engine.bake.finishing import SHORTEST_LIT_S, finished, five
from mattone_engine.bake.hindrance import hindrance
from mattone_engine.bake.methods import method_of
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.search import LIT_BEFORE, Search
from mattone_engine.bake.verdict import HEAT_FREE_K, HEAT_STEP_K, NOT_HERE, SCORES
from mattone_engine.errors import InputError
from mattone_engine.heat.colour import colour_word
from mattone_engine.styles import Style, styles
from mattone_engine.things import Dough, Toppings
from mattone_engine.things.base import StrictModel
from mattone_engine.things.dough import LARGEST_CM2
from mattone_engine.things.rig import Rig, Verdict, allowed

# The element early, and from so long before the pull.
TOP_ELEMENT_S = (SHORTEST_LIT_S, 75.0)
HOB_S = (60.0, 120.0, 170.0)
# A crust so near, or so well inside its word's share, is not looked for further.
CERTAIN, CERTAIN_SHARE = 0.25, 0.6
# Up to these scores a better word than each in WORDS is within reach; from HOPELESS on none is, and from FAR_FROM_IT
# nothing else is tried.
WITHIN_REACH = (0.0, 0.53, 2.7)
HOPELESS = 8.0
FAR_FROM_IT = 20.0
# So many choices of a cell are baked whole, should the first lose its word by it.
WHOLE_TRIES = 3
# What a top element lit before launch adds to a deck, K.
LIFTED_K = 50.0


# What a head eats, as dough or, where it is thin, as a plate full; a pizza's rest before the knife; the usual wait between two, in minutes.
DOUGH_A_HEAD_G = 240.0


AREA_A_HEAD_CM2 = 700.0


REST_MIN = 2.5


BETWEEN_MIN = {"deck": 6.0, "fire": 3.0, "rack": 2.0}
# A pan that dough rises in is washed, oiled and proofed again before its next.
PROOF_AGAIN_MIN = 75.0


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
    # The place of the word, 0 the best.
    rank: int
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


class LeftOut(StrictModel):
    """A style that is not tried on a rig, and why."""

    style: str
    rig: str
    why: str


class MatchResult(StrictModel):
    """Cells in the order of styles, then rigs; what makes no sense is left out, and says why."""

    styles: list[str]
    cells: list[Cell]
    left_out: list[LeftOut]
    engine: str


def match(request: MatchInput) -> MatchResult:
    """Every sensible cell of the board."""
    known = asked_styles(request)
    told = [(one, rig, tried_on(one, rig)) for one in known for rig in request.rigs]
    sensible = [(one, rig) for one, rig, verdict in told if verdict is Verdict.GOES]
    # The longest bakes first: begun last, one would be waited for alone.
    order = sorted(range(len(sensible)), key=lambda i: -sensible[i][0].bake_s[1])
    found = dict(zip(order, in_parallel(lambda i: cell(*sensible[i], request.altitude_m), order), strict=True))
    cells = [found[i] for i in range(len(sensible))]
    left_out = [LeftOut(style=one.key, rig=rig.key, why=verdict.text) for one, rig, verdict in told if verdict is not Verdict.GOES]
    return MatchResult(styles=[one.key for one in known], cells=cells, left_out=left_out, engine=ENGINE_VERSION)


def asked_styles(request: MatchInput) -> list[Style]:
    """The styles asked about: by their keys, or all there are and the cook's own."""
    there = {**styles(), **{own.key: own for own in request.own_styles}}
    unknown = [key for key in request.styles if key not in there]
    if unknown:
        raise InputError("styles", f"There is no style called {unknown[0]}; choose from {', '.join(there)}.")
    return [there[key] for key in request.styles] or list(there.values())


def tried_on(known: Style, rig: MatchRig) -> Verdict:
    """Whether a cook would try this style on this rig, and if not, why."""
    return allowed(known, rig, piece_cm2(known, rig.pan_area_cm2))


def makes_sense(known: Style, rig: MatchRig) -> bool:
    """Whether a cook would try."""
    return tried_on(known, rig) is Verdict.GOES


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


def portion(known: Style, pan_area_cm2: float | None, load: float = 1.0, *, round_cm2: float | None = None) -> tuple[Dough, Toppings]:
    """The style's piece of dough and its toppings; a pan or tray is filled by its own area, a round is as large as usual or as told."""
    dough, toppings = known.dough(), known.toppings(load)
    area_cm2 = pan_area_cm2 if known.fills_its_pan and pan_area_cm2 is not None else None if known.shape == "pan" else round_cm2
    if area_cm2 is not None:
        share = area_cm2 / dough.area_cm2
        dough = dough.model_copy(update={"mass_g": round(dough.mass_g * share, 1), "area_cm2": round(area_cm2, 1)})
        toppings = toppings.model_copy(update={"mass_g": round(toppings.mass_g * share, 1)})
    return dough, toppings


def piece_cm2(known: Style, pan_area_cm2: float | None) -> float:
    """The size of one piece: a pan or tray style fills what it is baked in."""
    return pan_area_cm2 if known.fills_its_pan and pan_area_cm2 is not None else known.area_cm2


def pieces_for(people: int, dough: Dough) -> int:
    """How many such pieces feed so many people."""
    return max(1, math.ceil(people / max(0.3, feeds(dough)) - 1e-9))


def feeds(dough: Dough) -> float:
    """How many one such piece feeds."""
    return max(dough.mass_g / DOUGH_A_HEAD_G, dough.area_cm2 / AREA_A_HEAD_CM2)


# The board and what would help ask for the same rigs.
@lru_cache(maxsize=1024)
def best_of(request: PlanInput) -> tuple[Candidate, Search]:
    """The best controls of a rig: by a short search where its word is certain, else by the one a plan makes."""
    search = Search(request)
    found = _best_over_fire(search) if request.fire is not None else _best_in_oven(search)
    if not search.is_settled(search.misfit.rank) and _within_reach(found, search):
        # As the opened plan will tell it.
        longer = Search(request, baked_before=search.tried, for_word=True)
        told = longer.run()[0]
        search, found = longer, (found if told.rank == found.rank and found.score < told.score else told)
    return found, search


def _as_opened(quick: Candidate, search: Search) -> Candidate:
    """The choice baked whole, as a plan with these controls shows it; where that costs it its word, the best of the next ones."""
    ranked = search.ranked()
    order = [quick, *(one for one in ranked[:WHOLE_TRIES] if one is not quick)][:WHOLE_TRIES]
    best: Candidate | None = None
    for one in order:
        whole = search.try_controls(finished(one, search.request), whole=True)
        whole = search.settled(whole) or whole
        best = whole if best is None or whole.order < best.order else best
        if best.rank <= quick.rank:
            break
    assert best is not None
    return best


def _within_reach(found: Candidate, search: Search) -> bool:
    """Whether a longer search might end in another word: its own limit near, or a better one not far from what may have it."""
    if found.rank == NOT_HERE:
        return found.score <= HOPELESS
    able = [c.score for c in search.tried.values() if c.misfit < found.rank]
    return min(able, default=math.inf) <= WITHIN_REACH[found.rank] or not search.holds(found)


def _best_in_oven(search: Search) -> Candidate:
    """Middle at full heat; then where base or rim points: up or down, cooler, the element on, a start on the hob."""
    request, target = search.request, search.target
    levels, high = request.hearth.levels, search.limits.hottest_c
    middle, floor = (levels + 1) // 2, search.misfit.rank
    tried = [search.at(high, middle)]

    def best() -> Candidate:
        return min(tried, key=lambda c: c.order)

    def is_certain() -> bool:
        return best().rank == floor and best().score <= max(CERTAIN, CERTAIN_SHARE * SCORES[floor])

    if is_certain():
        return best()
    up = best().rim_l - target.rim > best().base_l - target.base or best().done.limited_by == "core"
    tried.append(search.at(high, levels if up else 1))
    found = best()
    by_hand = search.style.made.by_hand
    own = "top_element" in by_hand
    # No element lifts a deck into a band so far above it.
    cold = high + request.hearth.dial_error_k + LIFTED_K < search.style.deck_c[0] - HEAT_FREE_K - 2.0 * HEAT_STEP_K
    if is_certain() or (found.rank == NOT_HERE and found.score > FAR_FROM_IT and (cold or not own)):
        return found
    level = found.controls.level
    dark = min(found.base_l - target.base, found.rim_l - target.rim)
    if dark < -2.0 or found.done.limited_by == "core" or found.done.t_s < search.style.bake_s[0]:
        for dial in cooler(request, high)[-2:]:
            tried.append(search.at(dial, level))
            if best() is not tried[-1] or is_certain():
                break
    # An element goes with full heat: no help where less heat is what helps.
    hot = best().score > 0.5 * found.score
    if search.limits.may_use_top_element and not search.fan_needed and hot and (found.rim_l > target.rim + 1.0 or own) and not is_certain():
        late = tried[0] if own else found
        on_s = five(late.done.t_s - TOP_ELEMENT_S[1])
        spans = ((max(level, middle), Span(on_s=0.0, off_s=TOP_ELEMENT_S[0])), (late.controls.level, Span(on_s=on_s, off_s=on_s + 100.0)))
        tried += [search.at(high, *one) for one in spans]
        if own and tried[-1].score < late.score and not is_certain():
            # It brings the pull nearer: begin it sooner by half of that.
            sooner_s = five(0.5 * (late.done.t_s + tried[-1].done.t_s) - TOP_ELEMENT_S[1])
            tried.append(search.at(high, late.controls.level, Span(on_s=sooner_s, off_s=sooner_s + 100.0)))
        if own and best().rank > floor and not _within_reach(best(), search):
            # Glowing before launch it stores heat in the deck.
            tried += [search.at(high, up, span) for up in sorted({level, levels}) for span in LIT_BEFORE[:3]]
    fan = request.hearth.has_fan and request.hearth.fan_can_be_off
    if fan and best().rank > floor and (best().misfit > floor or found.rim_l > target.rim + 1.0):
        # What hands do for it a fan may do by itself, and lift a top that stays pale.
        tried.append(search.at(best().controls.setpoint_c, level, fan=True))
    if search.limits.may_hob and (best().base_l > target.base + 3.0 or (best().rank > floor and "hob_s" in by_hand)):
        controls = best().controls
        for seconds in HOB_S:
            tried.append(search.try_controls(controls.model_copy(update={"hob_s": seconds})))
            if best() is not tried[-1]:
                break
    return best()


def _best_over_fire(search: Search) -> Candidate:
    """Three floors, then another top on the best of them, and a later flip where the bars are bare."""
    fire = search.request.fire
    assert fire is not None
    faces = search.faces()
    flip = 60.0 if search.request.on_grate else None
    tried = [search.over(face, fire.dome_usual_k, flip) for face in (faces[-1], faces[len(faces) // 2], faces[0])]
    best = min(tried, key=lambda c: c.order).controls
    top = fire.dome_high_k if min(tried, key=lambda c: c.order).rim_l > search.target.rim else fire.dome_low_k
    tried.append(search.over(best.setpoint_c, top, flip))
    if flip is not None:
        tried.append(search.over(best.setpoint_c, fire.dome_usual_k, 100.0))
    return min(tried, key=lambda c: c.order)


def cell(known: Style, rig: MatchRig, altitude_m: float) -> Cell:
    """One cell of the board."""
    request = plan_input(known, rig, altitude_m)
    quick, search = best_of(request)
    found = _as_opened(quick, search)
    return Cell(
        style=known.key,
        rig=rig.key,
        word=found.word,
        rank=found.rank,
        score=round(found.score, 3),
        likely_done_s=found.done.t_s,
        method=method_of(request, found.controls),
        reason=hindrance(found, search),
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
        next_min=round(found.done.t_s / 60.0 + _between_min(request), 1),
        controls=found.controls,
    )


def _between_min(request: PlanInput) -> float:
    """Minutes between a pull and the next launch."""
    if request.pan is not None and request.dough.shape == "pan":
        return PROOF_AGAIN_MIN
    return BETWEEN_MIN["fire" if request.fire is not None else "deck" if request.has_deck else "rack"]
