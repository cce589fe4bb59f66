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
from mattone_engine.bake.plan import verdict
from mattone_engine.bake.plan_input import Controls, HearthLimits, PlanInput, TopElement
from mattone_engine.bake.search import Candidate, Search, method_of
from mattone_engine.bake.text import celsius
from mattone_engine.heat.colour import colour_word
from mattone_engine.heat.outcome import PALE_L
from mattone_engine.styles import Style, style, styles
from mattone_engine.things import Dough, Pan, Surface, Toppings
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.base import Thing

# Styles that need a flame or a grill under them are not looked for in an oven with a dial.
BOARD_FAMILIES = ("round", "thin", "tray", "pan", "flame")
GLOWS = (45.0, 120.0)
# A help below this gain in score, summed over the styles asked about, is not worth a line.
LEAST_GAIN = 0.1


class MatchRig(Thing):
    """A hearth with what the dough stands on. pan_area_cm2 is the pan's inside."""

    key: Annotated[str, Field(min_length=1, max_length=60)]
    hearth: HearthLimits = HearthLimits()
    surface: Surface | None = None
    pan: Pan | None = None
    pan_area_cm2: Annotated[float, Field(ge=50, le=4000)] | None = None


class MatchInput(Thing):
    """The JSON of `./mattone engine match` and `help_most`. Without styles: all that an oven can be asked for."""

    rigs: Annotated[tuple[MatchRig, ...], Field(min_length=1, max_length=40, strict=False)]
    styles: Annotated[tuple[StyleKey, ...], Field(max_length=20, strict=False)] = ()
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
    keys = asked_styles(ask)
    pairs = [(key, rig) for key in keys for rig in ask.rigs if makes_sense(style(key), rig)]
    cells = side_by_side(lambda pair: cell(pair[0], pair[1], ask.altitude_m), pairs)
    return MatchResult(styles=list(keys), cells=cells, engine=ENGINE_VERSION)


def asked_styles(ask: MatchInput) -> tuple[str, ...]:
    return ask.styles or tuple(key for key, known in styles().items() if known.family in BOARD_FAMILIES)


def makes_sense(known: Style, rig: MatchRig) -> bool:
    """A pan style wants a pan with walls; a shaped base wants a deck or a flat tray."""
    if known.shape == "pan":
        return rig.pan is not None and rig.pan.kind != "thin_tray"
    return rig.pan is None or (rig.pan.kind == "thin_tray" and rig.surface is None)


def plan_input(known: Style, rig: MatchRig, altitude_m: float) -> PlanInput:
    """The style's own dough on this rig, spread to the pan where there is one."""
    dough, toppings = portion(known, rig.pan_area_cm2)
    return PlanInput(hearth=rig.hearth, surface=rig.surface, pan=rig.pan, dough=dough, toppings=toppings, style=known.key, altitude_m=altitude_m)  # type: ignore[arg-type]


def portion(known: Style, pan_area_cm2: float | None, load: float = 1.0) -> tuple[Dough, Toppings]:
    """The style's piece of dough and its toppings; a pan style fills the pan."""
    dough, toppings = known.dough(), known.toppings(load)
    if known.shape == "pan" and pan_area_cm2 is not None:
        share = pan_area_cm2 / dough.area_cm2
        dough = dough.model_copy(update={"mass_g": round(dough.mass_g * share, 1), "area_cm2": round(pan_area_cm2, 1)})
        toppings = toppings.model_copy(update={"mass_g": round(toppings.mass_g * share, 1)})
    return dough, toppings


# The board and what would help ask for the same rigs.
@lru_cache(maxsize=512)
def best_of(ask: PlanInput) -> tuple[Candidate, Search]:
    """A short search: all levels at full heat, the best cooler, and with the element where it may glow."""
    search = Search(ask)
    limits = ask.hearth
    high = limits.max_setpoint_c
    levels = sorted({1, (limits.levels + 1) // 2, limits.levels, min(2, limits.levels)})
    tried = [search.at(high, level) for level in levels]
    level = min(tried, key=lambda c: c.score).controls.level
    tried += [search.at(high - less, level) for less in (20.0, 45.0) if high - less >= 180.0]
    if limits.top_element_usable and limits.top_element_kw > 0 and not search.fan_needed:
        upper = max(level, (limits.levels + 1) // 2)
        tried += [search.at(high, upper, TopElement(on_s=0.0, off_s=seconds)) for seconds in GLOWS]
    return min(tried, key=lambda c: c.score), search


def cell(key: str, rig: MatchRig, altitude_m: float) -> Cell:
    """One cell of the board."""
    known = style(key)
    ask = plan_input(known, rig, altitude_m)
    found, search = best_of(ask)
    pale = found.base_l > PALE_L
    return Cell(
        style=key,
        rig=rig.key,
        word="not here" if pale else verdict(found.score),
        score=round(found.score, 3),
        likely_done_s=found.done.t_s,
        method=method_of(found.controls, rig.hearth.levels, ask.has_deck, in_pan=ask.pan is not None),
        reason=reason(found, search, known),
        bottom_l=round(found.base_l, 1),
        rim_l=round(found.rim_l, 1),
        cheese_l=round(found.cheese_l, 1),
        bottom_word=colour_word(found.base_l),
        rim_word=colour_word(found.rim_l),
        dry_mm=round(found.dry_mm, 2),
        loss_pct=round(found.loss_pct, 1),
        deck_c=round(found.deck_c, 1),
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

    def __init__(self, key: str, rig: MatchRig, found: Candidate) -> None:
        self.key, self.rig, self.controls = key, rig, found.controls
        self.score = standing_score(found)

    def with_dough(self, more: dict[str, float], altitude_m: float) -> float:
        """The score with a changed dough, the controls as they are."""
        ask = plan_input(style(self.key), self.rig, altitude_m)
        dough = ask.dough.model_copy(update={name: getattr(ask.dough, name) + amount for name, amount in more.items()})
        return standing_score(Search(ask.model_copy(update={"dough": dough})).try_controls(self.controls))


def help_most(ask: MatchInput) -> HelpResult:
    """What one change would do for these styles, over the best rig the kitchen has for each."""
    keys = asked_styles(ask)
    pairs = [(key, rig) for key in keys for rig in ask.rigs if makes_sense(style(key), rig)]
    found = side_by_side(lambda pair: Standing(pair[0], pair[1], best_of(plan_input(style(pair[0]), pair[1], ask.altitude_m))[0]), pairs)
    now: dict[str, Standing] = {}
    for standing in found:
        if standing.key not in now or standing.score < now[standing.key].score:
            now[standing.key] = standing
    helps = [*_things_to_own(ask, keys, now), *_changes_of_dough(now, ask.altitude_m)]
    worth = sorted((h for h in helps if h.gain >= LEAST_GAIN), key=lambda h: -h.gain)
    return HelpResult(helps=worth[:6], engine=ENGINE_VERSION)


def _told(kind: str, what: str, after: dict[str, float], now: dict[str, Standing]) -> Helps:
    """Sum up what a change does, by the scores it gives."""
    gain, lifts = 0.0, []
    for key, score in after.items():
        before = now[key].score if key in now else WORST
        if score < before - 0.02:
            gain += before - score
            if key not in now or verdict(score) != verdict(before):
                lifts.append(f"{style(key).name}: {verdict(score)}")
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


def _things_to_own(ask: MatchInput, keys: tuple[str, ...], now: dict[str, Standing]) -> list[Helps]:
    """Surfaces and pans the kitchen does not have, in its best hearth for each style."""
    hearth = max((rig.hearth for rig in ask.rigs), key=lambda limits: limits.max_setpoint_c)
    owned = {(rig.surface.kind, rig.surface.thickness_mm) for rig in ask.rigs if rig.surface is not None}
    pans = {rig.pan.kind for rig in ask.rigs if rig.pan is not None}
    new = [
        (what, MatchRig(key="new", hearth=hearth, surface=surface, pan=pan, pan_area_cm2=area))
        for what, surface, pan, area in THINGS
        if not (surface is not None and (surface.kind, surface.thickness_mm) in owned) and not (pan is not None and pan.kind in pans)
    ]
    pairs = [(what, rig, key) for what, rig in new for key in keys if makes_sense(style(key), rig)]
    scores = side_by_side(lambda one: standing_score(best_of(plan_input(style(one[2]), one[1], ask.altitude_m))[0]), pairs)
    return [_told("thing", what, {key: score for (w, _, key), score in zip(pairs, scores, strict=True) if w == what}, now) for what, _ in new]


def _changes_of_dough(now: dict[str, Standing], altitude_m: float) -> list[Helps]:
    """What the dough could be made with instead."""
    pairs = [(what, more, standing) for what, more in DOUGHS for standing in now.values()]
    scores = side_by_side(lambda one: one[2].with_dough(one[1], altitude_m), pairs)
    return [_told("dough", what, {s.key: score for (w, _, s), score in zip(pairs, scores, strict=True) if w == what}, now) for what, _ in DOUGHS]
