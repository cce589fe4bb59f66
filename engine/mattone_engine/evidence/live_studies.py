"""Does Bake know what it says it knows? Hidden ovens and doughs are baked, looked at with a cook's eyes, and followed.

The hidden truth is drawn as in `coverage`; what is told of it is read with an instrument's error and seen with an eye's.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cache

import numpy as np

from mattone_engine.bake.controls import Controls, Span
from mattone_engine.bake.coverage import drawn_values
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.match import portion
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.simulate import quick_outcome
from mattone_engine.heat.outcome import target_of
from mattone_engine.heat.parameters import parameters
from mattone_engine.knowledge.truths import Z80, drawn
from mattone_engine.live.answer import cavity_k
from mattone_engine.live.ensemble import Ensemble, Truth, first_places
from mattone_engine.live.following import Baked, Interval, baked, follow, pull_window
from mattone_engine.live.journal import Journal, Reading, Seen
from mattone_engine.live.night import Night, untold_of
from mattone_engine.live.offers import Moment, offered
from mattone_engine.live.possible import possible
from mattone_engine.live.sightings import EYE_CHEESE_L, EYE_L, READING_K, SWATCHES_L
from mattone_engine.live.weighing import GO_ON, PULL_NOW, onwards, weigh
from mattone_engine.styles import styles
from mattone_engine.things import HearthLimits, Pan, SimulateInput, Surface
from mattone_engine.things.knowledge import GENERAL

OVEN = HearthLimits(max_setpoint_c=275)
# Style, hearth, surface, pan and its area: what homes bake on.
RIGS: tuple[tuple[str, HearthLimits, Surface | None, Pan | None, float | None], ...] = (
    ("home_oven_round", OVEN, Surface(kind="steel", thickness_mm=10), None, None),
    ("new_york", OVEN, Surface(kind="stone", thickness_mm=15), None, None),
    ("family_tray", OVEN, None, Pan(kind="thin_tray", thickness_mm=0.8), 1200.0),
    ("cast_iron_pan", OVEN, None, Pan(kind="cast_iron", thickness_mm=5), 531.0),
    ("sicilian", OVEN, Surface(kind="stone", thickness_mm=15), Pan(kind="dark_aluminium", thickness_mm=1.6), 816.0),
    ("thin_crisp", OVEN, Surface(kind="stone", thickness_mm=15), None, None),
    ("home_oven_round", HearthLimits(max_setpoint_c=250, fan_can_be_off=False, top_element_usable=False), Surface(kind="stone", thickness_mm=15), None, None),
    ("neapolitan", HearthLimits(kind="flame_oven", max_setpoint_c=450), Surface(kind="firebrick", thickness_mm=30), None, None),
)


@dataclass(frozen=True)
class Evening:
    """A plan as it is frozen into a bake, and what it may be before anything is told."""

    name: str
    request: PlanInput
    spec: SimulateInput
    night: Night
    likely_s: float
    planned_s: float

    def follow(self, journal: Journal, seed: int) -> Ensemble[Baked]:
        """The bakes it may be after a journal."""
        assert journal.launched_s is not None
        # What is made of readings is asked for once; what there is without them, by every hidden bake.
        known, number = self.request.knowledge, seed if journal.readings else 0
        return follow(self.spec, known, journal, seed, first=self.at_launch(journal, number))

    def at_launch(self, journal: Journal, number: int) -> Ensemble[Baked]:
        """The bakes it may be before anything is seen of it."""
        return untold_of(self.spec, self.request.knowledge, self.night, journal.launched_s or 0.0, journal.readings, number)


@cache
def evenings() -> tuple[Evening, ...]:
    """The rigs above, planned."""
    return tuple(_evening(i, *rig) for i, rig in enumerate(RIGS))


@cache
def lit_evenings() -> tuple[Evening, ...]:
    """Of these the rounds on a deck whose oven has a top element, baked with it on for the first half."""
    found = []
    for i, planned in enumerate(evenings()):
        if planned.spec.pan is None and planned.request.hearth.kind == "electric_oven" and planned.request.hearth.top_element_usable:
            controls = plan(planned.request).controls.model_copy(update={"top_element": Span(on_s=0.0, off_s=round(0.5 * planned.planned_s))})
            found.append(_followed_from(len(RIGS) + i, planned.name, planned.request, controls))
    return tuple(found)


def _evening(seed: int, key: str, hearth: HearthLimits, surface: Surface | None, pan: Pan | None, area_cm2: float | None) -> Evening:
    dough, toppings = portion(styles()[key], area_cm2)
    request = PlanInput(hearth=hearth, surface=surface, pan=pan, dough=dough, toppings=toppings, style=key)
    carrier = pan.traits.word if pan is not None else surface.traits.word if surface is not None else ""
    return _followed_from(seed, f"{styles()[key].name}, {carrier}", request, plan(request).controls)


def _followed_from(seed: int, name: str, request: PlanInput, controls: Controls) -> Evening:
    spec, night = bake_of(request, controls), Night(first_places(seed))
    first = untold_of(spec, request.knowledge, night, 60.0 * spec.preheat_min, (), 0)
    return Evening(name, request, spec, night, pull_window(first, request.knowledge).likely, quick_outcome(spec, target_of(spec))[0].t_s)


def eyes(told: Baked, at_s: float, rng: np.random.Generator, *, cheese: bool = False, bias_l: float = 0.0) -> Seen:
    """A cook's look at a hidden bake: the nearest swatch, by an eye good to half a word that reads by bias_l too pale."""

    def seen(values: np.ndarray, eye_l: float) -> float:
        l_star = float(np.interp(at_s, told.result.t_s, values)) + bias_l + eye_l * float(rng.standard_normal())
        return min(SWATCHES_L, key=lambda one: abs(one - l_star))

    base, rim = seen(told.result.base_l, EYE_L), seen(told.result.rim_l, EYE_L)
    return Seen(at_s=at_s, base=base, rim=rim, cheese=seen(told.result.cheese_l, EYE_CHEESE_L) if cheese else None)


def read(told: Baked, rng: np.random.Generator, share: float = 1.0) -> Reading:
    """A hidden deck read at its launch, or at a share of its way there."""
    at_s = share * float(told.heated.t_s[-1])
    deck_c = float(np.interp(at_s, told.heated.t_s, told.heated.deck_c)) + READING_K["infrared"] * float(rng.standard_normal())
    return Reading(since_heat_s=at_s, deck_c=min(700.0, max(-40.0, deck_c)))


STAGES = ("at launch", "the deck read", "a look at half time", "a look at three quarters", "both looks")


@dataclass(frozen=True)
class Stage:
    """One stage over all hidden bakes: share inside the window, and its width against that at launch (mean of ln)."""

    name: str
    inside_pct: float
    width: float


def _followed(evening: Evening, truth: Truth, seed: int) -> tuple[float, list[Interval]]:
    """When a hidden bake is right, and the window told of it at every stage."""
    rng = np.random.default_rng(seed)
    hidden = baked(evening.spec, target_of(evening.spec), truth)
    launched = float(hidden.heated.t_s[-1])
    bias_l = a_bias(rng)
    half, later = (eyes(hidden, share * evening.likely_s, rng, cheese=True, bias_l=bias_l) for share in (0.5, 0.75))
    journals = (
        Journal(launched_s=launched),
        Journal(launched_s=launched, readings=(read(hidden, rng),)),
        Journal(launched_s=launched, seen=(half,)),
        Journal(launched_s=launched, seen=(later,)),
        Journal(launched_s=launched, seen=(half, later)),
    )
    known = evening.request.knowledge
    return hidden.done.t_s, [pull_window(evening.follow(j, seed), known) for j in journals]


def a_bias(rng: np.random.Generator) -> float:
    """By how much a cook's eye reads too pale, L*."""
    return GENERAL.eye_l.spread / Z80 * float(rng.standard_normal())


def hidden_truth(evening: Evening, rng: np.random.Generator) -> Truth:
    """A hidden oven and dough, drawn as `coverage` draws them."""
    return Truth(drawn(evening.request.knowledge, rng), drawn_values(rng))


def stages(hidden: int = 200, seed: int = 7) -> list[Stage]:
    """So many hidden ovens in turn over the rigs."""
    rng = np.random.default_rng(seed)
    drawn_ones = [(evenings()[i % len(RIGS)], hidden_truth(evenings()[i % len(RIGS)], rng), seed + i) for i in range(hidden)]
    found = in_parallel(lambda one: _followed(*one), drawn_ones)
    result = []
    for i, name in enumerate(STAGES):
        inside = [told[i].low <= done_s <= told[i].high for done_s, told in found]
        widths = [math.log(told[i].high / told[i].low) / math.log(told[0].high / told[0].low) for _, told in found]
        result.append(Stage(name, 100.0 * float(np.mean(inside)), float(np.mean(widths))))
    return result


# Bakes that go wrong: what is off in each, beside all that is drawn.
TROUBLES = ("cold deck", "hot top", "thick base", "wet top")
# A bake goes wrong that would end half a word or more from what is wanted; a help worth having, and a harm, L*.
WRONG_L, HELPS_L, HARMS_L = 4.0, 2.0, 2.0
# When it is looked at, as shares of the pull that is told at launch; at the last something may be done.
LOOKED_AT = (0.45, 0.65)


@dataclass(frozen=True)
class Acted:
    """A bake that may go wrong: how far off it ends if nothing is done, and what the first-ranked and the best action gain, L*."""

    trouble: str
    off_l: float
    first_l: float
    best_l: float
    offered: bool


@dataclass(frozen=True)
class Regret:
    """Over many such bakes: their number; in how many something was offered, and something helps; shares of those helped and of all harmed."""

    bakes: int
    offered: int
    can_be_helped: int
    helped_pct: float
    harmed_pct: float
    regret_l: float


def troubled(truth: Truth, trouble: str) -> Truth:
    """The same truth with one thing badly off."""
    v, ranges = truth.variation, parameters()
    if trouble == "cold deck":
        return replace(truth, variation=replace(v, dial_k=v.dial_k - 35.0))
    if trouble == "thick base":
        return replace(truth, variation=replace(v, loading=1.3 * v.loading))
    if trouble == "wet top":
        return replace(truth, variation=replace(v, topping_water=1.35 * v.topping_water))
    hot = {"cool_view": ranges["cool_view"].range[0], "rim_view": ranges["rim_view"].range[1], "food_emissivity": ranges["food_emissivity"].range[1]}
    return Truth(replace(v, top_element=1.4 * v.top_element), truth.values | hot)


def acted(evening: Evening, trouble: str, truth: Truth, seed: int) -> Acted:
    """One hidden bake: read at launch, looked at twice, and the first-ranked action done in it."""
    rng = np.random.default_rng(seed)
    spec, known = evening.spec, evening.request.knowledge
    hidden = baked(spec, target_of(spec), troubled(truth, trouble))
    now_s = LOOKED_AT[-1] * evening.likely_s
    bias_l = a_bias(rng)
    looks = tuple(eyes(hidden, share * evening.likely_s, rng, cheese=True, bias_l=bias_l) for share in LOOKED_AT)
    journal = Journal(launched_s=float(hidden.heated.t_s[-1]), readings=(read(hidden, rng),) if spec.has_deck else (), seen=looks)
    ensemble = evening.follow(journal, seed)
    window = pull_window(ensemble, known)
    actions = possible(evening.request, spec, now_s, window.likely - now_s)
    left = [event for event in spec.events if event.at_s > now_s]
    moment = Moment(now_s, window, evening.planned_s, cavity_k(ensemble, known), left)
    first = offered(weigh(ensemble, actions, now_s, seed), moment)[0].action
    every = [GO_ON, PULL_NOW, *actions]
    off = [one.off_l for one in onwards(hidden, every, now_s)]
    return Acted(trouble, off[0], off[0] - off[every.index(first)], off[0] - min(off), first is not GO_ON)


def all_acted(hidden: int = 240, seed: int = 11) -> list[Acted]:
    """So many bakes in turn over the rigs and the troubles."""
    rng = np.random.default_rng(seed)
    jobs = []
    for i in range(hidden):
        evening = evenings()[i % len(RIGS)]
        jobs.append((evening, TROUBLES[(i // len(RIGS)) % len(TROUBLES)], hidden_truth(evening, rng), seed + i))
    return in_parallel(lambda job: acted(*job), jobs)


def regret(found: list[Acted]) -> Regret:
    """What came of doing what is ranked first."""
    offered = [one for one in found if one.offered]
    able = [one for one in offered if one.best_l >= HELPS_L]
    return Regret(
        len(found),
        len(offered),
        len(able),
        100.0 * float(np.mean([one.first_l > 0.0 for one in able])) if able else math.nan,
        100.0 * float(np.mean([one.first_l < -HARMS_L for one in found])) if found else math.nan,
        float(np.mean([one.best_l - one.first_l for one in found])) if found else math.nan,
    )
