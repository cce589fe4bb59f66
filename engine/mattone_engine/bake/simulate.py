"""Bake once and tell what comes of it, with an honest window."""

from __future__ import annotations

import math
from dataclasses import fields

import numpy as np

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.confidence import LESS_KNOWN, low_confidence
from mattone_engine.bake.edge import edge_l
from mattone_engine.bake.fire import lit
from mattone_engine.bake.moments import moments
from mattone_engine.bake.no_pull import no_pull
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.result import AtDone, Closure, Half, PreheatTrace, SimulateResult, Since, Traces
from mattone_engine.heat.colour import cheese_word, colour_word
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.layout import baked_mm
from mattone_engine.heat.outcome import (
    GUM_WORDS,
    MELTED_C,
    Done,
    Series,
    TargetCrust,
    aim_of,
    bite_word,
    crumb_word,
    is_sure,
    likely_done,
    series,
    target_of,
    word_for,
)
from mattone_engine.heat.preheat import Preheat
from mattone_engine.heat.run import Bake, Trace
from mattone_engine.heat.variation import Variation, as_believed
from mattone_engine.knowledge.better import after_deck_reading
from mattone_engine.knowledge.truths import one_off_each
from mattone_engine.styles import style_of
from mattone_engine.things import SimulateInput

# No bake is looked at for longer, s.
LONGEST_S = 2400.0


def horizon_s(spec: SimulateInput) -> float:
    """How long to bake on paper: past any pull worth drawing; LONGEST_S where there is none before."""
    return min(LONGEST_S, 1.9 * style_of(spec).bake_s[1] + 120.0)


def quick_outcome(
    spec: SimulateInput,
    target: TargetCrust,
    *,
    heated: Preheat | None = None,
    variation: Variation | None = None,
    whole: bool = False,
    brief: bool = False,
    near_s: float | None = None,
) -> tuple[Done, Series]:
    """Likely pull and series of a bake that is not drawn.

    By one centre column and the rim, for searching; with `brief` only until the pull is clearly past: the
    series then ends soon after it. With `whole`, by all columns: the pull is the one `simulate` gives.
    near_s: about where the pull is, where that is known; a whole bake then ends soon after it, with the same pull.
    """
    bake = Bake(spec, quick=not whole, heated=heated, variation=variation, balanced=False, aim=None if whole else aim_of(target))
    if whole:
        return _until_sure(bake, target, near_s)
    horizon = horizon_s(spec)
    # Most bakes are over in their style's band; look further only when this one is not.
    low, high = style_of(spec).bake_s
    until = 10.0 * round(0.11 * high)
    if brief:
        until = min(until, 10.0 * round((1.3 * math.sqrt(low * high) + target.topped_s) / 10.0) + 30.0)
    while True:
        until = min(horizon, until)
        bake.advance_to(until)
        result = series(bake.trace(balanced=False))
        done = likely_done(result, target)
        past = until - max(15.0, 0.06 * until) if brief else float(result.t_s[-2])
        if bake.is_over or done.t_s <= past or until >= horizon:
            return done, result
        until = 10.0 * round(0.13 * until) if brief else horizon


# The slowest part is mostly as wanted so long after the pull, as a factor; looked for again in such steps.
SURE_AFTER, SURE_STEP = 1.12, 1.12


def _until_sure(bake: Bake, target: TargetCrust, near_s: float | None) -> tuple[Done, Series]:
    """Bake on until no later record can move the pull; at most as long as `whole_bake` does, step by step."""
    horizon = horizon_s(bake.spec)
    usual = 10.0 * round(0.11 * style_of(bake.spec).bake_s[1])
    until = usual if near_s is None else min(usual, 10.0 * math.ceil(0.1 * SURE_AFTER * near_s))
    while True:
        until = min(horizon, until)
        bake.advance_to(until)
        result = series(bake.trace(balanced=False))
        done = likely_done(result, target)
        if is_sure(result, target, done):
            return done, result
        if until >= horizon:
            if done.limited_by != "not done" or horizon >= LONGEST_S:
                return done, result
            horizon = LONGEST_S
        if until < usual:
            until = min(usual, 10.0 * math.ceil(0.1 * SURE_STEP * until))
        else:
            until = 10.0 * round(0.13 * until) if until < horizon_s(bake.spec) else horizon


def promised(spec: SimulateInput, target: TargetCrust, heated: Preheat, result: Series, done: Done) -> tuple[float, float]:
    """When to look from, and the latest, s after launch: what every view tells of a bake of which nothing was seen."""
    return _looked_for(window(spec, target, heated, done.t_s), result, target, done)


def _looked_for(found: tuple[float, float], result: Series, target: TargetCrust, done: Done) -> tuple[float, float]:
    """A window in which nobody looks for an end before the last of the topping is on and melted."""
    look, late = found
    return (min(done.t_s, max(look, melted_at(result, target))) if done.is_pull else look), late


def melted_at(result: Series, target: TargetCrust) -> float:
    """When what was put on late has melted, s after launch; 0 where nothing was."""
    if target.topped_s <= 0.0:
        return 0.0
    later = (result.t_s >= target.topped_s) & (result.top_c >= MELTED_C)
    return float(result.t_s[int(np.argmax(later))]) if later.any() else target.topped_s


# Of a window wider than this, as a factor, it is said that nobody can foretell the moment; and why, by what moves it most.
WIDEST = 3.0
WHY_WIDE = {
    "dial_k": "it depends most on how hot the oven really is. Read the deck at launch, or log a preheat.",
    "power": "it depends most on how fast the oven heats. Heat it longer, and read the deck at launch.",
    "top_element": "it depends most on how strong the top element is. Leave it off, or watch the rim all the time.",
    "fan_film": "it depends most on how hard the fan blows. Bake without it, or look early.",
    "uneven": "it depends most on how even the oven is. Turn the pizza early.",
    "browning": "it depends most on how fast this dough browns. Look early; one logged bake will narrow it.",
    "contact": "it depends most on how the base lies on its deck. Look at the base early.",
    "loading": "it depends most on how thick the base is. Weigh the dough balls.",
    "topping_water": "it depends most on how wet the topping is. Drain it.",
    "model": "Mattone knows too little of bakes like this one. Look early; one logged bake will narrow it.",
}


def window(spec: SimulateInput, target: TargetCrust, heated: Preheat, done_s: float) -> tuple[float, float]:
    """The 80 % range of the right moment, in seconds.

    Propagates each thing not known by one run and adds the model's own spread; a deck reading at
    launch takes most of the dial's part away.
    """
    spread = math.hypot(*_shifts(spec, target, heated).values())
    return done_s * math.exp(-spread), done_s * math.exp(spec.knowledge.late_skew * spread)


def _shifts(spec: SimulateInput, target: TargetCrust, heated: Preheat) -> dict[str, float]:
    """How far each thing not known moves ln of the right moment, by its field of Variation; "model": what the model itself gets wrong."""
    known = spec.knowledge
    if spec.surface is not None and spec.surface.deck_c is not None:
        known = after_deck_reading(known)
    base, _ = quick_outcome(spec, target, heated=heated)

    def shifted(truth: Variation) -> float:
        other, _ = quick_outcome(spec, target, heated=None if truth.of_hearth else heated, variation=truth)
        return math.log(max(other.t_s, 5.0) / max(base.t_s, 5.0))

    tried = [truth for truth in one_off_each(known) if _acts(spec, truth)]
    likely = as_believed(known)
    # Of each truth one field is off: it names the shift.
    names = [next((f.name for f in fields(truth) if getattr(truth, f.name) != getattr(likely, f.name)), "") for truth in tried]
    model = known.model_ln.spread * (LESS_KNOWN if low_confidence(spec) else 1.0)
    return dict(zip(names, in_parallel(shifted, tried), strict=True)) | {"model": model}


def unpredictable(spec: SimulateInput, target: TargetCrust, heated: Preheat, window_s: tuple[float, float]) -> str:
    """Why the time cannot be predicted, and what would help, where the window is wider than WIDEST times its beginning; else nothing."""
    low, high = window_s
    if high <= WIDEST * low:
        return ""
    shifts = _shifts(spec, target, heated)
    most = max(shifts, key=lambda name: abs(shifts[name]))
    return f"The time of this bake cannot be predicted: {WHY_WIDE[most]}"


def _acts(spec: SimulateInput, truth: Variation) -> bool:
    """Whether what is off in this truth can change this bake at all."""
    done = {event.do for event in spec.events}
    if truth.fan_film != 1.0:
        return spec.hearth.fan or "fan_on" in done
    if truth.top_element != 1.0:
        return "top_element_on" in done
    return truth.power == 1.0 or not spec.hearth.is_flame


def whole_bake(spec: SimulateInput, target: TargetCrust, heated: Preheat) -> tuple[Trace, Series, Done]:
    """All columns past the pull, as far as is worth drawing; to LONGEST_S where nothing is done before."""
    bake = Bake(spec, heated=heated)
    bake.advance_to(horizon_s(spec))
    trace = bake.trace()
    result = series(trace)
    done = likely_done(result, target)
    if done.limited_by == "not done" and bake.now_s < LONGEST_S:
        bake.advance_to(LONGEST_S)
        trace = bake.trace()
        result = series(trace)
        done = likely_done(result, target)
    return trace, result, done


def simulate(spec: SimulateInput, *, spread: tuple[float, float] | None = None) -> SimulateResult:
    """Bake `spec` as it stands: traces, likely pull, window, crust.

    With `spread` (factors of the likely pull) the window is not propagated anew: for drawing
    while something is dragged.
    """
    target = target_of(spec)
    heated = heat_up(spec)
    trace, result, done = whole_bake(spec, target, heated)
    edge = edge_l(spec, result.t_s, result.base_l)
    look, late = (
        promised(spec, target, heated, result, done) if spread is None else _looked_for((done.t_s * spread[0], done.t_s * spread[1]), result, target, done)
    )
    wide = "" if spread is not None or not done.is_pull else unpredictable(spec, target, heated, (look, late))
    return SimulateResult(
        likely_done_s=done.t_s,
        look_from_s=round(look, 1),
        not_later_s=round(late, 1),
        no_pull=no_pull(done, result, target),
        low_confidence=low_confidence(spec),
        unpredictable=wide,
        burns_s=done.burns_s,
        limited_by=done.limited_by,
        distance=round(done.distance, 4),
        deck_at_launch_c=round(float(result.deck_c[result.t_s >= 0.0][0]), 1),
        at_done=with_edge(crust_at(spec, result, done.index), edge, done.index),
        traces=traces(result).model_copy(update={"edge_l": rounded(edge, 1)}),
        bite=since(result, [bite_at(spec, result, i) for i in range(result.t_s.size)]),
        crumb=since(result, [crumb_at(spec, result, i) for i in range(result.t_s.size)]),
        moments=moments(result, spec.altitude_m),
        preheat=_heat_up_trace(spec, heated),
        closure=Closure(energy=trace.energy_closure, water=trace.water_closure),
        engine=ENGINE_VERSION,
    )


def _heat_up_trace(spec: SimulateInput, heated: Preheat) -> PreheatTrace:
    """The way to the launch, for drawing; over a fire as it comes up."""
    if spec.hearth.is_flame:
        result = lit(spec.hearth, spec.deck)
        shown = result.t_s <= spec.preheat_min * 60.0 + 1e-6
        t_s, deck_c, air_c = result.t_s[shown], result.deck_c[shown], result.air_c[shown]
    else:
        t_s, deck_c, air_c = heated.t_s[::3], heated.deck_c[::3], heated.air_c[::3]
    return PreheatTrace(t_s=rounded(t_s, 0), deck_c=rounded(deck_c, 1), air_c=rounded(air_c, 1))


def bite_at(spec: SimulateInput, result: Series, index: int) -> str:
    """How the base bites at one moment."""
    return bite_word(float(result.dry_mm[index]), baked_mm(spec.dough), float(result.loss_pct[index]))


def crumb_at(spec: SimulateInput, result: Series, index: int) -> str:
    """What the crumb is at one moment."""
    return crumb_word(float(result.loss_pct[index]), style_of(spec).loss_pct)


def since(result: Series, words: list[str]) -> list[Since]:
    """Words at the times of a series as the moments from which each holds."""
    found: list[Since] = []
    for t_s, word in zip(result.t_s, words, strict=True):
        if not found or found[-1].word != word:
            found.append(Since(from_s=round(float(t_s), 1), word=word))
    return found


def crust_at(spec: SimulateInput, result: Series, index: int) -> AtDone:
    """The crust at one moment of a series."""
    base, rim, cheese = float(result.base_l[index]), float(result.rim_l[index]), float(result.cheese_l[index])
    return AtDone(
        base_l=round(base, 1),
        rim_l=round(rim, 1),
        cheese_l=round(cheese, 1),
        base_word=colour_word(base),
        rim_word=colour_word(rim),
        cheese_word=cheese_word(cheese),
        core_c=round(float(result.core_c[index]), 1),
        loss_pct=round(float(result.loss_pct[index]), 1),
        base_dry_mm=round(float(result.dry_mm[index]), 2),
        dark_spot_pct=round(float(result.spot_pct[index]), 1),
        deck_c=round(float(result.deck_c[index]), 1),
        hot_rim_l=round(float(result.hot_rim_l[index]), 1),
        crisp_word=bite_at(spec, result, index),
        crumb_word=crumb_at(spec, result, index),
        gummy_kg_m2=round(float(result.wet_kg_m2[index]), 2),
        under_sauce_word=word_for(GUM_WORDS, float(result.wet_kg_m2[index])),
        halves=[half_at(float(cheese[index]), float(wet[index])) for cheese, wet in zip(result.half_cheese_l, result.half_wet_kg_m2, strict=True)]
        if result.half_cheese_l.shape[0] > 1
        else [],
    )


def with_edge(told: AtDone, edge: np.ndarray, index: int) -> AtDone:
    """The crust with its edge against the wall, where there is one; edge (n,) or (0,)."""
    if not edge.size:
        return told
    l_star = float(edge[index])
    return told.model_copy(update={"edge_l": round(l_star, 1), "edge_word": colour_word(l_star)})


def half_at(cheese_l: float, wet_kg_m2: float) -> Half:
    """One topping half at one moment."""
    return Half(
        cheese_l=round(cheese_l, 1),
        cheese_word=cheese_word(cheese_l),
        gummy_kg_m2=round(wet_kg_m2, 2),
        under_sauce_word=word_for(GUM_WORDS, wet_kg_m2),
    )


def rounded(values: np.ndarray, digits: int) -> list[float]:
    """Values (n,) rounded to so many digits, as JSON numbers."""
    return [round(float(value), digits) for value in values]


def traces(result: Series) -> Traces:
    """The drawn quantities, rounded to what a drawing can show."""
    return Traces(
        t_s=rounded(result.t_s, 1),
        deck_c=rounded(result.deck_c, 1),
        air_c=rounded(result.air_c, 1),
        base_c=rounded(result.base_c, 1),
        base_l=rounded(result.base_l, 1),
        rim_l=rounded(result.rim_l, 1),
        cheese_l=rounded(result.cheese_l, 1),
        core_c=rounded(result.core_c, 1),
        loss_pct=rounded(result.loss_pct, 2),
        base_dry_mm=rounded(result.dry_mm, 2),
        dark_spot_pct=rounded(result.spot_pct, 1),
        gummy_kg_m2=rounded(result.wet_kg_m2, 2),
    )
