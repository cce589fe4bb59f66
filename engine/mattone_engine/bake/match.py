"""The board: how near each rig of a kitchen comes to each style, and what would help most.

A cell is searched like a plan, but with few controls and quick bakes: enough to say a word and a
time. Opening it as a plan searches again, finely.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

from pydantic import Field

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.both_cores import side_by_side
from mattone_engine.bake.controls import Controls, Span
from mattone_engine.bake.methods import method_of
from mattone_engine.bake.plan import verdict
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.search import Candidate, Search
from mattone_engine.bake.text import celsius
from mattone_engine.errors import InputError
from mattone_engine.heat.colour import colour_word
from mattone_engine.heat.outcome import PALE_L
from mattone_engine.styles import Style, styles
from mattone_engine.things import Dough, Overhead, Pan, Surface, Toppings
from mattone_engine.things.base import Thing
from mattone_engine.things.dough import LARGEST_CM2
from mattone_engine.things.rig import Reach, Rig, allowed

GLOWS = (45.0, 120.0)
# A help below this gain in score, summed over the styles asked about, is not worth a line.
LEAST_GAIN = 0.04
# What a head eats, as dough or, where it is thin, as a plate full; a pizza's rest before the knife; the usual wait between two, in minutes.
DOUGH_A_HEAD_G = 240.0
AREA_A_HEAD_CM2 = 700.0
REST_MIN = 2.5
BETWEEN_MIN = {"deck": 6.0, "fire": 3.0, "rack": 2.0}


class MatchRig(Rig):
    """A rig of the board. pan_area_cm2 is the pan's inside."""

    key: Annotated[str, Field(min_length=1, max_length=60)]
    pan_area_cm2: Annotated[float, Field(ge=50, le=LARGEST_CM2)] | None = None


class MatchInput(Thing):
    """The JSON of `./mattone engine match` and `help_most`. Without styles: all, and the own ones."""

    rigs: Annotated[tuple[MatchRig, ...], Field(min_length=1, max_length=40, strict=False)]
    styles: Annotated[tuple[Annotated[str, Field(max_length=40)], ...], Field(max_length=40, strict=False)] = ()
    own_styles: Annotated[tuple[Style, ...], Field(max_length=20, strict=False)] = ()
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0


class Cell(Thing):
    """One style on one rig at its best."""

    style: str
    rig: str
    word: str
    score: float
    likely_done_s: float
    method: str
    reason: str
    bottom_l: float
    rim_l: float
    cheese_l: float
    bottom_word: str
    rim_word: str
    dry_mm: float
    loss_pct: float
    deck_c: float
    # How many one piece feeds; minutes from heat on to the first on the table, and between two more.
    feeds: float
    first_min: float
    next_min: float
    controls: Controls


class MatchResult(Thing):
    """Cells in the order of styles, then rigs; combinations that make no sense are left out."""

    styles: list[str]
    cells: list[Cell]
    engine: str


class Helps(Thing):
    """A change and what it is worth: gain in score over all styles, and for which it changes the word."""

    kind: str
    what: str
    gain: float
    lifts: list[str]


class HelpResult(Thing):
    """The changes worth making, the best first."""

    helps: list[Helps]
    engine: str


def match(ask: MatchInput) -> MatchResult:
    """Every sensible cell of the board."""
    known = asked_styles(ask)
    pairs = [(one, rig) for one in known for rig in ask.rigs if makes_sense(one, rig)]
    cells = side_by_side(lambda pair: cell(pair[0], pair[1], ask.altitude_m), pairs)
    return MatchResult(styles=[one.key for one in known], cells=cells, engine=ENGINE_VERSION)


def asked_styles(ask: MatchInput) -> list[Style]:
    """The styles asked about: by their keys, or all there are and the cook's own."""
    there = {**styles(), **{own.key: own for own in ask.own_styles}}
    unknown = [key for key in ask.styles if key not in there]
    if unknown:
        raise InputError("styles", f"There is no style called {unknown[0]}; choose from {', '.join(there)}.")
    return [there[key] for key in ask.styles] or list(there.values())


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
def best_of(ask: PlanInput) -> tuple[Candidate, Search]:
    """A short search that goes where the last bake points: few bakes a cell, enough for a word."""
    search = Search(ask)
    found = _best_over_fire(search) if ask.fire is not None else _best_in_oven(search)
    return found, search


def _best_in_oven(search: Search) -> Candidate:
    """Middle and low at full heat; then up, cooler, or the element on, by what lags or runs ahead."""
    ask, want = search.ask, search.want
    limits, high = ask.hearth, search.limits.hottest_c
    middle = (limits.levels + 1) // 2
    tried = [search.at(high, level) for level in sorted({1, middle})]
    best = min(tried, key=lambda c: c.score)
    if best.controls.level == middle and (best.rim_l > want.rim + 1.0 or best.done.limited_by == "core"):
        tried.append(search.at(high, limits.levels))
        best = min(tried, key=lambda c: c.score)
    level = best.controls.level
    dark = min(best.base_l - want.bottom, best.rim_l - want.rim)
    if dark < -2.0 or best.done.limited_by == "core" or best.done.t_s < search.style.bake_s[0]:
        tried += [search.at(high - less, level) for less in (20.0, 45.0) if high - less >= 180.0]
    if search.limits.may_glow and not search.fan_needed and best.rim_l > want.rim + 1.0:
        tried += [search.at(high, max(level, middle), Span(on_s=0.0, off_s=seconds)) for seconds in GLOWS]
    if search.limits.may_hob and best.base_l > want.bottom + 4.0:
        tried.append(search.try_controls(best.controls.model_copy(update={"hob_s": 120.0})))
    return min(tried, key=lambda c: c.score)


def _best_over_fire(search: Search) -> Candidate:
    """Three floors, then another top on the best of them, and a later flip where the bars are bare."""
    fire = search.ask.fire
    assert fire is not None
    high, low = search.limits.hottest_c, fire.lowest_c
    flip = 60.0 if search.ask.on_grate else None
    tried = [search.over(round(face), fire.dome_usual_k, flip) for face in (high, 0.5 * (high + low), low)]
    best = min(tried, key=lambda c: c.score).controls
    top = fire.dome_high_k if min(tried, key=lambda c: c.score).rim_l > search.want.rim else fire.dome_low_k
    tried.append(search.over(best.setpoint_c, top, flip))
    if flip is not None:
        tried.append(search.over(best.setpoint_c, best.dome_over_k or fire.dome_usual_k, 120.0))
    return min(tried, key=lambda c: c.score)


def cell(known: Style, rig: MatchRig, altitude_m: float) -> Cell:
    """One cell of the board."""
    ask = plan_input(known, rig, altitude_m)
    found, search = best_of(ask)
    pale = found.base_l > PALE_L
    return Cell(
        style=known.key,
        rig=rig.key,
        word="not here" if pale else verdict(found.score),
        score=round(found.score, 3),
        likely_done_s=found.done.t_s,
        method=method_of(ask, found.controls),
        reason=reason(found, search, known),
        bottom_l=round(found.base_l, 1),
        rim_l=round(found.rim_l, 1),
        cheese_l=round(found.cheese_l, 1),
        bottom_word=colour_word(found.base_l),
        rim_word=colour_word(found.rim_l),
        dry_mm=round(found.dry_mm, 2),
        loss_pct=round(found.loss_pct, 1),
        deck_c=round(found.deck_c, 1),
        feeds=round(feeds(ask.dough), 2),
        first_min=round(found.controls.preheat_min + found.done.t_s / 60.0 + REST_MIN, 1),
        next_min=round(found.done.t_s / 60.0 + BETWEEN_MIN["fire" if ask.fire is not None else "deck" if ask.has_deck else "rack"], 1),
        controls=found.controls,
    )


def reason(found: Candidate, search: Search, known: Style) -> str:
    """What holds the crust back, in one line; empty where nothing does."""
    want, low = search.want, known.deck_c[0]
    base_off, rim_off = found.base_l - want.bottom, found.rim_l - want.rim
    if search.ask.has_deck and found.deck_c < low - 25.0:
        return f"deck {celsius(found.deck_c)}, wants {celsius(low)}"
    if found.loss_pct > want.loss_pct + 3.5:
        return f"dries out: {found.loss_pct:.0f} % lost"
    if base_off > 5.0 and base_off > rim_off:
        return "base lags behind the rim"
    if rim_off > 5.0:
        return "rim stays pale"
    if base_off < -5.0:
        return "base runs ahead"
    if rim_off < -5.0:
        return "rim runs ahead"
    if found.done.t_s > 1.25 * known.bake_s[1]:
        return "takes long"
    return ""


# A style counts for no more than this, so that one hopeless case does not decide for all.
WORST = 6.0


def standing_score(found: Candidate) -> float:
    """The score as the board counts it: a base that stays pale is no pizza."""
    return WORST if found.base_l > PALE_L else min(WORST, found.score)


class Standing:
    """How a style stands in the kitchen now: its best rig there and the controls found for it."""

    def __init__(self, known: Style, rig: MatchRig, found: Candidate) -> None:
        self.style, self.rig, self.controls = known, rig, found.controls
        self.score = standing_score(found)

    def with_dough(self, more: dict[str, float], altitude_m: float) -> float:
        """The score with a changed dough, the controls as they are."""
        ask = plan_input(self.style, self.rig, altitude_m)
        dough = ask.dough.model_copy(update={name: getattr(ask.dough, name) + amount for name, amount in more.items()})
        return standing_score(Search(ask.model_copy(update={"dough": dough})).try_controls(self.controls))


def help_most(ask: MatchInput) -> HelpResult:
    """What one change would do for these styles, over the best rig the kitchen has for each."""
    known = asked_styles(ask)
    pairs = [(one, rig) for one in known for rig in ask.rigs if makes_sense(one, rig)]
    found = side_by_side(lambda pair: Standing(pair[0], pair[1], best_of(plan_input(pair[0], pair[1], ask.altitude_m))[0]), pairs)
    now: dict[str, Standing] = {}
    for standing in found:
        if standing.style.key not in now or standing.score < now[standing.style.key].score:
            now[standing.style.key] = standing
    helps = [*_things_to_own(ask, known, now), *_second_deck(ask, now), *_changes_of_dough(now, ask.altitude_m), *_changes_of_controls(now, ask.altitude_m)]
    worth = sorted((h for h in helps if h.gain >= LEAST_GAIN), key=lambda h: -h.gain)
    return HelpResult(helps=worth[:7], engine=ENGINE_VERSION)


def _told(kind: str, what: str, after: dict[str, tuple[Style, float]], now: dict[str, Standing]) -> Helps:
    """Sum up what a change does, by the scores it gives."""
    gain, lifts = 0.0, []
    for key, (known, score) in after.items():
        before = now[key].score if key in now else WORST
        if score < before - 0.02:
            gain += before - score
            if key not in now or verdict(score) != verdict(before):
                lifts.append(f"{known.name}: {verdict(score)}")
    return Helps(kind=kind, what=what, gain=round(gain, 2), lifts=lifts)


# Generic things a kitchen may lack, with the inside of a pan in cm2.
THINGS: tuple[tuple[str, Surface | None, Pan | None, float | None], ...] = (
    ("a 6 mm steel", Surface(kind="steel", thickness_mm=6.0), None, None),
    ("a 10 mm steel", Surface(kind="steel", thickness_mm=10.0), None, None),
    ("a 15 mm stone", Surface(kind="stone", thickness_mm=15.0), None, None),
    ("a 26 cm cast-iron pan", None, Pan(kind="cast_iron", thickness_mm=5.0), 531.0),
    ("a dark aluminium pan, 24 x 34 cm", None, Pan(kind="dark_aluminium", thickness_mm=1.6), 816.0),
)
DOUGHS = (
    ("6 % more water in the dough", {"hydration_pct": 6.0}),
    ("1.5 % sugar in the dough", {"sugar_pct": 1.5}),
    ("2 % oil in the dough", {"oil_pct": 2.0}),
    ("a tenth of the flour scalded to a paste", {"paste_pct": 10.0}),
)


def _things_to_own(ask: MatchInput, known: list[Style], now: dict[str, Standing]) -> list[Helps]:
    """Surfaces and pans the kitchen does not have, in its best oven for each style."""
    ovens = [rig.hearth for rig in ask.rigs if rig.hearth.fire is None]
    if not ovens:
        return []
    hearth = max(ovens, key=lambda limits: limits.max_setpoint_c)
    owned = {(rig.surface.kind, rig.surface.thickness_mm) for rig in ask.rigs if rig.surface is not None}
    pans = {rig.pan.kind for rig in ask.rigs if rig.pan is not None}
    new = [
        (what, MatchRig(key="new", hearth=hearth, surface=surface, pan=pan, pan_area_cm2=area))
        for what, surface, pan, area in THINGS
        if not (surface is not None and (surface.kind, surface.thickness_mm) in owned) and not (pan is not None and pan.kind in pans)
    ]
    pairs = [(what, rig, one) for what, rig in new for one in known if makes_sense(one, rig)]
    scores = side_by_side(lambda one: standing_score(best_of(plan_input(one[2], one[1], ask.altitude_m))[0]), pairs)
    told = list(zip(pairs, scores, strict=True))
    return [_told("thing", what, {one.key: (one, score) for (w, _, one), score in told if w == what}, now) for what, _ in new]


def _second_deck(ask: MatchInput, now: dict[str, Standing]) -> list[Helps]:
    """A stone on the level above, over the best rig of each style."""
    second = Surface(kind="stone", thickness_mm=15.0)
    scores: dict[str, tuple[Style, float]] = {}
    for key, standing in now.items():
        c, levels = standing.controls, standing.rig.hearth.levels
        if standing.rig.hearth.fire is not None or c.level >= levels or c.top_element is not None:
            continue
        plain = plan_input(standing.style, standing.rig, ask.altitude_m).model_copy(update={"spares": (second,)})
        over = Overhead(kind="stone", thickness_mm=15.0, level=min(levels, c.level + 2))
        heated = c.model_copy(update={"overhead": over, "preheat_min": min(75.0, c.preheat_min + 15.0)})
        scores[key] = (standing.style, standing_score(Search(plain).try_controls(heated)))
    return [_told("thing", "a second stone, on a level above", scores, now)]


def _changes_of_dough(now: dict[str, Standing], altitude_m: float) -> list[Helps]:
    """What the dough could be made with instead."""
    pairs = [(what, more, standing) for what, more in DOUGHS for standing in now.values()]
    scores = side_by_side(lambda one: one[2].with_dough(one[1], altitude_m), pairs)
    told = list(zip(pairs, scores, strict=True))
    return [_told("dough", what, {s.style.key: (s.style, score) for (w, _, s), score in told if w == what}, now) for what, _ in DOUGHS]


def _changes_of_controls(now: dict[str, Standing], altitude_m: float) -> list[Helps]:
    """What the hearth could be set to beside what the board looked at: its fan, more preheat, another level."""
    asked: list[tuple[str, Standing, Controls]] = []
    for standing in now.values():
        limits, c = standing.rig.hearth, standing.controls
        if limits.fire is not None:
            continue
        if limits.has_fan and limits.fan_can_be_off:
            asked.append(("the fan on", standing, c.model_copy(update={"fan": True, "top_element": None})))
        asked.append(("15 minutes more preheat", standing, c.model_copy(update={"preheat_min": c.preheat_min + 15.0})))
        asked += [("one level up", standing, c.model_copy(update={"level": c.level + 1}))] if c.level < limits.levels else []
        asked += [("one level down", standing, c.model_copy(update={"level": c.level - 1}))] if c.level > 1 else []
    scores = side_by_side(lambda one: standing_score(Search(plan_input(one[1].style, one[1].rig, altitude_m)).try_controls(one[2])), asked)
    told = list(zip(asked, scores, strict=True))
    return [
        _told("control", what, {s.style.key: (s.style, score) for (w, s, _), score in told if w == what}, now)
        for what in ("the fan on", "15 minutes more preheat", "one level up", "one level down")
    ]
