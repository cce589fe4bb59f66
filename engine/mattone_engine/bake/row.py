"""Several pizzas on one deck: what each launch finds, and how the last differs from the first."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Annotated

import numpy as np
from pydantic import Field

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.result import AtDone
from mattone_engine.bake.simulate import crust_at, whole_bake
from mattone_engine.heat.environment import AMBIENT_C
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import Done, Series, TargetCrust, target_of
from mattone_engine.heat.preheat import Preheat, recover
from mattone_engine.heat.run import Bake
from mattone_engine.styles import style_of
from mattone_engine.things import Event, SimulateInput
from mattone_engine.things.base import StrictModel
from mattone_engine.things.dough import PieceSize, Shape
from mattone_engine.things.rig import Rig
from mattone_engine.things.text import kelvin

# A deck is back when its face is within this of where the first launch found it, K.
BACK_WITHIN_K = 10.0
LONGEST_WAIT_MIN = 20.0
# From so many levels on two trays go in with air between them.
TWO_TRAYS_LEVELS = 4


# Two trays at once stand so many levels apart.
LEVELS_APART = 2
# What a bare tray in a kitchen loses from each face, by air and by radiation together.
BARE_TRAY_W_M2K = 12.0
# Shaping one base takes so long, and it is ready so long before its launch, min.
SHAPE_MIN, READY_MIN = 4.0, 1.5
# Between a pull and the next launch hands need this much at least.
LEAST_WAIT_MIN = 2.0


class RowInput(StrictModel):
    """The JSON of `./mattone engine row`: one bake, repeated.

    together: so many go in at once, where the oven takes them. gap_min is the time between a pull and the next launch; left out, each launch waits until the
    deck is back within 10 K, at most 20 minutes, and until so many hands have the next one ready. sizes: of each pizza in order, where
    they are not alike; those go in one at a time.
    """

    bake: SimulateInput
    hands: Annotated[int, Field(ge=1, le=2)] = 1
    count: Annotated[int, Field(ge=1, le=12)] = 4
    together: Annotated[int, Field(ge=1, le=2)] = 1
    gap_min: Annotated[float, Field(ge=0, le=60)] | None = None
    sizes: Annotated[tuple[PieceSize, ...], Field(max_length=12, strict=False)] = ()


class Launch(StrictModel):
    """One pizza of the row. drop_k is how far the face fell; back_min how long it took to be back (null: not yet)."""

    launch_s: float
    deck_at_launch_c: float
    likely_done_s: float
    limited_by: str
    drop_k: float
    back_min: float | None
    at_done: AtDone


class RowResult(StrictModel):
    """All pizzas in order; times are seconds after the first launch. together: how many go in at once. say: what a row of pans or trays asks

    for, and where a deck or a floor is not back in time, what that means.
    """

    launches: list[Launch]
    together: int = 1
    # Whether two may go in at once.
    may_be_together: bool = False
    say: str
    engine: str


def wait_between_min(shape: Shape, hands: int, bake_min: float, back_min: float) -> float:
    """Minutes from a pull to the next launch: the deck is back, and hands have the next base ready."""
    ready = SHAPE_MIN + READY_MIN if shape != "pan" else LEAST_WAIT_MIN
    # A second pair of hands shapes while the first one watches.
    return max(back_min, LEAST_WAIT_MIN, ready - bake_min if hands > 1 else ready)


def row(request: RowInput) -> RowResult:
    """Bake the row one after another on the same deck, in the same hearth; or two trays at a time."""
    spec = request.bake
    at_once = request.together if request.count > 1 and may_be_together(spec) and not request.sizes else 1
    if at_once > 1:
        spec = in_pairs(spec)
    target = target_of(spec)
    heated = heat_up(spec)
    first_c: float | None = None
    launches: list[Launch] = []
    clock_s = 0.0
    rounds = -(-request.count // at_once)
    for number in range(rounds):
        if number == rounds - 1 and request.count % at_once:
            # The last of an odd number is alone.
            spec = request.bake
        if number < len(request.sizes):
            dough, toppings = request.sizes[number].on(request.bake.dough, request.bake.toppings)
            spec = spec.model_copy(update={"dough": dough, "toppings": toppings})
        bake, shown, done = _until_done(spec, heated, target)
        start_c = float(shown.deck_c[0])
        first_c = start_c if first_c is None else first_c
        back_s = _back_after_s(spec, bake, first_c)
        back_min = LONGEST_WAIT_MIN if back_s is None else back_s / 60.0
        usual_min = wait_between_min(spec.dough.shape, request.hands, done.t_s / 60.0, back_min)
        wait_s = 60.0 * (request.gap_min if request.gap_min is not None else usual_min)
        launch = Launch(
            launch_s=round(clock_s, 1),
            deck_at_launch_c=round(start_c, 1),
            likely_done_s=done.t_s,
            limited_by=done.limited_by,
            drop_k=round(start_c - float(shown.deck_c[: done.index + 1].min()), 1),
            back_min=None if back_s is None else round(back_s / 60.0, 1),
            at_done=crust_at(spec, shown, done.index),
        )
        launches += [launch] * min(at_once, request.count - len(launches))
        clock_s += done.t_s + wait_s
        heated = recover(spec.hearth, spec.deck, bake.left_behind(), max(wait_s, 1.0), events=_before(spec), overhead=spec.overhead)
        if spec.hearth.is_flame and spec.has_deck:
            heated = _flame_held(heated, first_c)
        spec = on_the_warm_tray(spec, bake.pan_c, wait_s)
    says = [row_say(request.bake, request.count), _not_back(request, launches)]
    return RowResult(
        launches=launches,
        together=at_once,
        may_be_together=may_be_together(request.bake),
        say=" ".join(one for one in says if one),
        engine=ENGINE_VERSION,
    )


def in_pairs(spec: SimulateInput) -> SimulateInput:
    """Two alike in at once, two levels apart; half-way they change places."""
    level = spec.hearth.level
    other = level + LEVELS_APART if level + LEVELS_APART <= spec.hearth.levels else level - LEVELS_APART
    low, high = style_of(spec).bake_s
    change = Event(at_s=round(0.5 * math.sqrt(low * high)), do="move", level=other)
    kept = tuple(event for event in spec.events if event.do != "move")
    return spec.model_copy(update={"together": 2, "events": tuple(sorted((*kept, change), key=lambda e: e.at_s))})


def on_the_warm_tray(spec: SimulateInput, left_c: float | None, wait_s: float) -> SimulateInput:
    """The next one on the same tray, as warm as it still is; dough that proves in its pan lies in a cool one."""
    if spec.pan is None or left_c is None or spec.dough.shape == "pan" or spec.pan.preheated:
        return spec
    material = spec.pan.traits.material
    # A bare tray loses heat from both faces at once, evenly: it is thin (lumped capacity; Incropera & DeWitt 2007, chapter 5).
    tau_s = material.density * material.heat * 1e-3 * spec.pan.thickness_mm / (2.0 * BARE_TRAY_W_M2K)
    warm_c = AMBIENT_C + (left_c - AMBIENT_C) * math.exp(-wait_s / tau_s)
    return spec.model_copy(update={"pan": spec.pan.model_copy(update={"start_c": round(warm_c, 1)})})


def _flame_held(heated: Preheat, floor_c: float) -> Preheat:
    """A floor that came back hotter than planned: between two pizzas a cook turns the flame down until it is as planned."""
    over_k = max(0.0, float(heated.profile_c[-1]) - floor_c)
    return replace(heated, profile_c=heated.profile_c - over_k, deck_c=heated.deck_c - over_k) if over_k else heated


def _not_back(request: RowInput, launches: list[Launch]) -> str:
    """What it means that the deck, or a fire's floor, does not come back between two pizzas; empty where it does."""
    if len(launches) < 2 or launches[0].back_min is not None or not request.bake.has_deck or request.gap_min is not None:
        return ""
    what = "floor" if request.bake.hearth.is_flame else "deck"
    cooler_k = launches[0].deck_at_launch_c - launches[1].deck_at_launch_c
    if cooler_k <= BACK_WITHIN_K:
        return ""
    return f"After {LONGEST_WAIT_MIN:.0f} min the {what} is still {kelvin(cooler_k)} cooler: each next one bakes longer. Wait longer, or plan with that {what}."


def may_be_together(spec: Rig | SimulateInput) -> bool:
    """Whether two trays or pans of this kind can be in at once, with air between them."""
    return spec.pan is not None and not spec.has_deck and not spec.hearth.traits.fire and spec.hearth.levels >= TWO_TRAYS_LEVELS


def row_say(spec: SimulateInput, count: int) -> str:
    """What a row of pans or trays asks for that a deck does not; empty on a deck."""
    if spec.pan is None or count < 2:
        return ""
    if spec.dough.shape == "pan":
        return "One pan is one pizza: between two it is washed, oiled and proofed again. Two pans in turn, or all doughs in pans of their own, make a row."
    return "Two trays may go in together, two levels apart; change their places half-way and look a few minutes later." if may_be_together(spec) else ""


def deck_back_min(spec: SimulateInput, done_s: float, heated: Preheat) -> float | None:
    """Minutes after the pull until the next one goes in, as a row plans it; None: it has no deck.

    After a boost by the element the deck does not come back to what the first launch found: then after LONGEST_WAIT_MIN.
    """
    if not spec.has_deck:
        return None
    bake = Bake(spec, heated=heated, quick=True)
    bake.advance_to(done_s)
    back_s = _back_after_s(spec, bake, float(heated.profile_c[-1]))
    return LONGEST_WAIT_MIN if back_s is None else round(back_s / 60.0, 1)


def _coming_back(spec: SimulateInput, left: Bake, minutes: float) -> Preheat:
    return recover(spec.hearth, spec.deck, left.left_behind(), minutes * 60.0, events=_before(spec), overhead=spec.overhead)


def _before(spec: SimulateInput) -> tuple[Event, ...]:
    """What is done before the first launch is done before each."""
    return tuple(event for event in spec.events if event.at_s < 0.0)


def _until_done(spec: SimulateInput, heated: Preheat, target: TargetCrust) -> tuple[Bake, Series, Done]:
    """The bake stopped at its likely pull, its series, and that pull."""
    _, shown, done = whole_bake(spec, target, heated)
    stopped = Bake(spec, heated=heated, quick=True)
    stopped.advance_to(done.t_s)
    return stopped, shown, done


def _back_after_s(spec: SimulateInput, left: Bake, first_c: float) -> float | None:
    """Seconds until the face that `left` leaves is back within BACK_WITHIN_K of `first_c`."""
    coming_back = _coming_back(spec, left, LONGEST_WAIT_MIN)
    back = coming_back.deck_c >= first_c - BACK_WITHIN_K
    return float(coming_back.t_s[int(np.argmax(back))]) if back.any() else None
