"""What one logged bake tells, before it is believed: how far every look at it lies from the model, and what could be why.

A look says that a crust had come to this colour at that moment. The model says when it should have: the difference of the two,
as ln(time), is put against how much each unknown of the kitchen would shift that moment. It is worked out about what is known of
any kitchen, once, when a bake is logged; `kitchen` weighs the lessons together.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.simulate import LONGEST_S, horizon_s
from mattone_engine.heat.colour import lightness
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import Series, TargetCrust, likely_done, series, target_of, time_shares
from mattone_engine.heat.preheat import Preheat, recover
from mattone_engine.heat.run import Bake
from mattone_engine.heat.variation import AS_TOLD, Variation, varied
from mattone_engine.live.journal import LONGEST_HEATING_S, Reading, Seen
from mattone_engine.live.sightings import EYE_CHEESE_L, EYE_L, PHOTO_L, READING_K
from mattone_engine.things import SimulateInput
from mattone_engine.things.base import StrictModel
from mattone_engine.things.knowledge import GENERAL

# What may be why, with the step by which its part is found, about what it is believed to stray by: K, and ln of a factor.
CAUSES = {"dial_k": 10.0, "power": 0.12, "top_element": 0.2, "fan_film": 0.2, "browning": 0.15, "loading": 0.1, "topping_water": 0.1}
Part = Literal["base", "rim", "cheese"]
PARTS: tuple[Part, ...] = ("base", "rim", "cheese")
# A crust that hardly changes colour tells no moment: least slope, L* for each e-fold of time, and the least that a look is off, ln.
LEAST_SLOPE_L, LEAST_NOISE_LN = 3.0, 0.03
# A word is so much wider than a swatch: of a word about 8 L* wide any L* is as likely (8 / sqrt 12). Standard deviations.
WORD_L, CHEESE_WORD_L = math.hypot(EYE_L, 8.0 / math.sqrt(12.0)), math.hypot(EYE_CHEESE_L, 6.0 / math.sqrt(12.0))
# What a photo's sides are good to, L*. A share by which one side's heat is found, and the least it must show for its gap to tell, L* for all of the heat.
SIDES_L, UNEVEN_STEP, LEAST_UNEVEN_L = 3.0, 0.1, 6.0
# How far the deck that a row left may be off, as ln(time) of the next pizza.
ROW_LN = 0.06
# How far beyond the drawn bake a moment is guessed, ln.
BEYOND_LN = 1.2


class SidesSeen(StrictModel):
    """How much darker, L*, the rim was on one side than on the other, give or take noise_l (standard deviation)."""

    darker_l: Annotated[float, Field(ge=0, le=60)]
    noise_l: Annotated[float, Field(ge=1, le=20)] = SIDES_L


class EarlierPizza(StrictModel):
    """A pizza of the same row that was in before: its launch and its pull, s since the heat went on."""

    launched_s: Annotated[float, Field(ge=0, le=LONGEST_HEATING_S)]
    pulled_s: Annotated[float, Field(ge=0, le=LONGEST_HEATING_S)]


class LessonInput(StrictModel):
    """A bake that was done: as it was set and told, without what its kitchen had taught by then; when it was pulled, s.

    seen: looks at it, the last of them as a rule the crust that came out; readings: of its deck; sides: whether one side was darker.
    earlier: the pizzas of its row before it, in order, and launched_s its own launch, s since the heat went on: its deck is what they left.
    """

    bake: SimulateInput
    pulled_s: Annotated[float, Field(ge=5, le=5400)]
    seen: Annotated[tuple[Seen, ...], Field(max_length=100, strict=False)] = ()
    readings: Annotated[tuple[Reading, ...], Field(max_length=400, strict=False)] = ()
    sides: SidesSeen | None = None
    earlier: Annotated[tuple[EarlierPizza, ...], Field(max_length=24, strict=False)] = ()
    launched_s: Annotated[float, Field(ge=0, le=LONGEST_HEATING_S)] | None = None

    @model_validator(mode="after")
    def is_in_order(self) -> LessonInput:
        if any(one.at_s > self.pulled_s + 1.0 for one in self.seen):
            raise ValueError("seen: a look at a bake is later than its pull; give its moment again.")
        times = [at for one in self.earlier for at in (one.launched_s, one.pulled_s)]
        if self.earlier and (self.launched_s is None or sorted(times) != times or times[-1] > self.launched_s):
            raise ValueError("earlier: a pizza is launched after the one before it was pulled; give their moments again.")
        return self


class Sighting(StrictModel):
    """One part at one look: later than the model says by off_ln, give or take noise_ln (standard deviation), and what each cause adds to that.

    by_eye: what an eye that reads 1 L* too pale adds; 0 of a photo.
    """

    part: Part
    off_ln: float
    noise_ln: float
    by: Annotated[tuple[float, ...], Field(strict=False)]
    by_eye: float = 0.0


class DeckReading(StrictModel):
    """The deck off the model by off_k, give or take noise_k, and what each cause adds to that."""

    off_k: float
    noise_k: float
    by: Annotated[tuple[float, ...], Field(strict=False)]


class UnevenReading(StrictModel):
    """One side's rim darker than the model says by off_l, give or take noise_l; by_l: what a share of heat that one side has more of adds to that."""

    off_l: float
    noise_l: float
    by_l: float


class Lesson(StrictModel):
    """What a bake tells. pull_by: what each cause adds to ln of its right pull; shares: how much base, rim and cheese decide it, sum 1.

    likely_s: its right pull by what is known of any kitchen; pulled_s: when it came out.
    """

    likely_s: float
    pulled_s: float
    shares: Annotated[tuple[float, float, float], Field(strict=False)]
    pull_by: Annotated[tuple[float, ...], Field(strict=False)]
    sightings: Annotated[tuple[Sighting, ...], Field(strict=False)] = ()
    decks: Annotated[tuple[DeckReading, ...], Field(strict=False)] = ()
    uneven: UnevenReading | None = None
    engine: str = ENGINE_VERSION


_Run = tuple[Preheat, Series]
_Value = Callable[[_Run], float]
_By = Callable[[_Value], tuple[float, ...]]


def lesson(request: LessonInput) -> Lesson:
    """Work out what a bake tells; raises nothing a valid input can cause."""
    request = request.model_copy(update={"bake": request.bake.model_copy(update={"knowledge": GENERAL})})
    spec = request.bake
    target, until = target_of(spec), min(LONGEST_S, max(horizon_s(spec), 1.5 * request.pulled_s))
    steps = [AS_TOLD, *_steps()]
    runs = in_parallel(lambda variation: _baked(request, variation, until), steps)
    told, others = runs[0], runs[1:]
    done = likely_done(told[1], target)
    row_ln = ROW_LN if request.earlier else 0.0
    shares = _shares(told[1], target, done.t_s)

    def by(value: _Value) -> tuple[float, ...]:
        """What each cause adds to a value, from one run a step below and one a step above."""
        pairs = zip(others[::2], others[1::2], CAUSES.values(), strict=True)
        return tuple(round((value(high) - value(low)) / (2.0 * step), 5) for low, high, step in pairs)

    return Lesson(
        likely_s=done.t_s,
        pulled_s=request.pulled_s,
        shares=shares,
        pull_by=by(lambda run: math.log(max(5.0, likely_done(run[1], target).t_s))),
        sightings=tuple(one for look in request.seen for part in PARTS if (one := _sighting(look, part, told, by, row_ln)) is not None),
        decks=tuple(_deck(one, told[0], by) for one in request.readings) if spec.has_deck else (),
        uneven=_uneven(request, told[1], until),
    )


def _steps() -> list[Variation]:
    """Each cause a step below and a step above what is believed."""
    return [Variation(**{name: sign * step if name == "dial_k" else math.exp(sign * step)}) for name, step in CAUSES.items() for sign in (-1.0, 1.0)]


def _baked(request: LessonInput, variation: Variation, until_s: float) -> _Run:
    spec, heated = request.bake, _heated(request, variation)
    bake = Bake(spec, quick=True, variation=variation, heated=heated, balanced=False)
    bake.advance_to(until_s)
    return heated, series(bake.trace(balanced=False))


def _heated(request: LessonInput, variation: Variation) -> Preheat:
    """Deck and hearth at the launch: heated, or as the pizzas before it left them."""
    spec, hearth = request.bake, varied(request.bake.hearth, variation)
    if not request.earlier or request.launched_s is None:
        return heat_up(spec, hearth)
    found = heat_up(spec.model_copy(update={"preheat_min": min(180.0, request.earlier[0].launched_s / 60.0)}), hearth)
    early = tuple(event for event in spec.events if event.at_s < 0.0)
    launches = [*(one.launched_s for one in request.earlier[1:]), request.launched_s]
    for one, next_s in zip(request.earlier, launches, strict=True):
        before = Bake(spec, quick=True, variation=variation, heated=found, balanced=False)
        before.advance_to(min(LONGEST_S, one.pulled_s - one.launched_s))
        found = recover(hearth, spec.deck, before.left_behind(), next_s - one.pulled_s, events=early, overhead=spec.overhead)
        found = replace(found, t_s=found.t_s + one.pulled_s)
    return found


def _values(result: Series, part: Part) -> np.ndarray:
    """A part's L* as it only darkens: what a moment can be read from."""
    return np.minimum.accumulate({"base": result.base_l, "rim": result.rim_l, "cheese": result.cheese_l}[part])


def came_to_ln(result: Series, part: Part, l_star: float) -> float:
    """ln of when a part came to an L*, s; guessed by its last slope where it does so later than was drawn."""
    after = result.t_s > 5.0
    t_ln, values = np.log(result.t_s[after]), _values(result, part)[after]
    if l_star < values[-1]:
        slope = max(LEAST_SLOPE_L, float(values[-6] - values[-1]) / float(t_ln[-1] - t_ln[-6]))
        return float(t_ln[-1]) + min(BEYOND_LN, (float(values[-1]) - l_star) / slope)
    return float(np.interp(-l_star, -values, t_ln))


def _slope_l(result: Series, part: Part, t_ln: float) -> float:
    """How fast a part darkens about a moment, L* for each e-fold of time."""
    around = np.interp(np.exp([t_ln - 0.12, t_ln + 0.12]), result.t_s, _values(result, part))
    return float(around[0] - around[1]) / 0.24


def _shares(result: Series, target: TargetCrust, pull_s: float) -> tuple[float, float, float]:
    """How much each part decides the pull, the mean of ln(time) over them; one that is wanted pale by how fast it changes there."""
    found = np.array(time_shares(target))
    if not found.any():
        found = np.array([_slope_l(result, part, math.log(pull_s)) ** 2 for part in PARTS]) + 1e-6
    base, rim, cheese = (found / found.sum()).tolist()
    return base, rim, cheese


def _seen_l(look: Seen, part: Part) -> tuple[float, float] | None:
    """What was seen of a part as L*, and how far an eye may be off (standard deviation)."""
    seen = getattr(look, part)
    if seen is None:
        return None
    is_cheese, is_word = part == "cheese", isinstance(seen, str)
    if part in look.measured:
        return lightness(seen, cheese=is_cheese), PHOTO_L
    eye_l = (CHEESE_WORD_L if is_word else EYE_CHEESE_L) if is_cheese else (WORD_L if is_word else EYE_L)
    return lightness(seen, cheese=is_cheese), eye_l


def _sighting(look: Seen, part: Part, told: _Run, by: _By, row_ln: float) -> Sighting | None:
    seen = _seen_l(look, part)
    if seen is None or look.at_s < 10.0:
        return None
    l_star, eye_l = seen
    at_ln = came_to_ln(told[1], part, l_star)
    slope = _slope_l(told[1], part, at_ln)
    if slope < LEAST_SLOPE_L:
        return None
    return Sighting(
        part=part,
        off_ln=round(math.log(look.at_s) - at_ln, 4),
        noise_ln=round(math.hypot(eye_l / slope, LEAST_NOISE_LN, row_ln), 4),
        by=by(lambda run: came_to_ln(run[1], part, l_star)),
        by_eye=0.0 if part in look.measured else round(1.0 / slope, 5),
    )


def _uneven(request: LessonInput, told: Series, until_s: float) -> UnevenReading | None:
    """What its sides tell of the hearth's; None where nobody looked, or where a turn has made both alike."""
    if request.sides is None:
        return None
    _, other = _baked(request, Variation(uneven=UNEVEN_STEP), until_s)
    expected, stepped = _gap_l(told, request.pulled_s), _gap_l(other, request.pulled_s)
    by_l = (stepped - expected) / UNEVEN_STEP
    if by_l < LEAST_UNEVEN_L:
        return None
    return UnevenReading(off_l=round(request.sides.darker_l - expected, 2), noise_l=request.sides.noise_l, by_l=round(by_l, 2))


def _gap_l(result: Series, at_s: float) -> float:
    """How much darker the rim's hot side is than the other, L*: the mean lies between them."""
    return 2.0 * float(np.interp(at_s, result.t_s, result.rim_l - result.hot_rim_l))


def _deck(reading: Reading, heated: Preheat, by: _By) -> DeckReading:
    def at(run: _Run) -> float:
        return float(np.interp(reading.since_heat_s, run[0].t_s, run[0].deck_c))

    return DeckReading(
        off_k=round(reading.deck_c - float(np.interp(reading.since_heat_s, heated.t_s, heated.deck_c)), 2), noise_k=READING_K[reading.by], by=by(at)
    )
