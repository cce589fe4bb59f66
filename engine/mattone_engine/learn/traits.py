"""What a kitchen has taught, in words, with how sure that is; how its promises held; and what one more measurement would be worth."""

from __future__ import annotations

import math
from statistics import NormalDist
from typing import Literal

import numpy as np

from mattone_engine.knowledge.truths import Z80
from mattone_engine.learn.kitchen import SURPRISES_Z, USUAL_HEARTH_SD, Kitchen, Logged
from mattone_engine.learn.lesson import PARTS, Lesson
from mattone_engine.learn.told import usual_lessons
from mattone_engine.live.causes import confirmed_by
from mattone_engine.live.sightings import EYE_CHEESE_L, EYE_L, PHOTO_L, READING_K
from mattone_engine.things.base import StrictModel
from mattone_engine.things.text import how_sure

# A trait is told once its interval is this much narrower than for any kitchen.
TOLD_FROM = 0.85
# A bake that counts less than this, because it would move too much, is asked about.
ASKS_BELOW = 0.35
# What a preheat log knows dial (K) and power (ln) by, standard deviations.
LOG_DIAL_K, LOG_POWER = 4.0 / Z80, 0.095 / Z80
# How fast a usual crust darkens about its pull, L* for each e-fold of time: what a look is worth.
USUAL_SLOPE_L = 30.0


class Trait(StrictModel):
    """One thing learned: its 80 % interval against any kitchen's, in `unit`; text: the same in words, temperatures in braces."""

    of: str
    name: str
    text: str
    low: float
    likely: float
    high: float
    unit: Literal["K", "%"]
    surer: float


class Outcome(StrictModel):
    """One bake against what was foretold of it, s; asks: it surprised, and waits for its cook's word."""

    key: str
    foretold_low_s: float
    foretold_s: float
    foretold_high_s: float
    came_s: float | None
    inside: bool | None
    counted: float
    asks: bool
    deck_asks: bool


class Worth(StrictModel):
    """What one more measurement would do to a rig's window: how much narrower, %."""

    what: Literal["a bake logged", "a bake with photos", "a deck reading", "a preheat log"]
    narrower_pct: float


def traits_of_hearth(kitchen: Kitchen, hearth: str, dial_error_k: float = 0.0) -> list[Trait]:
    """Dial, power, top element and hotter side, as far as bakes told of them; dial_error_k: how far its dial was known to lie before."""
    found = []
    for name, unit in (("dial_k", "K"), ("power", "%"), ("top_element", "%"), ("uneven", "%")):
        place = kitchen.at(f"h:{hearth}", name)
        mean, sd = float(kitchen.mean[place]), math.sqrt(float(kitchen.cov[place, place]))
        # Against any kitchen's: what a preheat log measured is known, too.
        surer = sd / USUAL_HEARTH_SD[name]
        if surer <= TOLD_FROM:
            found.append(_trait(hearth, name, mean + (dial_error_k if name == "dial_k" else 0.0), Z80 * sd, unit, surer))
    return found


def trait_of_dough(kitchen: Kitchen) -> Trait | None:
    """How this cook's dough browns; None as long as nothing told."""
    place = kitchen.at("cook", "browning")
    mean, sd = float(kitchen.mean[place]), math.sqrt(float(kitchen.cov[place, place]))
    surer = sd / math.sqrt(float(kitchen.usual_var[place]))
    return _trait("cook", "browning", mean, Z80 * sd, "%", surer) if surer <= TOLD_FROM else None


def trait_of_rig(kitchen: Kitchen, hearth: str, rig: str) -> Trait | None:
    """How much later or sooner bakes of a rig come than for any kitchen; None where none was logged on it."""
    lessons = [one.lesson for one in kitchen.counted if one.rig == rig]
    if not lessons:
        return None
    row = np.mean([kitchen.pull_row(one, hearth, rig) for one in lessons], axis=0)
    mean, sd = float(row @ kitchen.mean), math.sqrt(float(row @ kitchen.cov @ row))
    return _trait(rig, "pull", mean, Z80 * sd, "%", sd / math.sqrt(float(np.square(row) @ kitchen.usual_var)))


def _trait(of: str, name: str, mean: float, half: float, unit: str, surer: float) -> Trait:
    if unit == "K":
        low, likely, high = mean - half, mean, mean + half
    else:
        low, likely, high = (100.0 * math.expm1(value) for value in (mean - half, mean, mean + half))
    values = {"low": round(low, 1), "likely": round(likely, 1), "high": round(high, 1)}
    return Trait.model_validate(
        {"of": of, "name": name, "unit": unit, "surer": round(surer, 3), "text": trait_words(name, likely, 0.5 * (high - low)), **values}
    )


# How each trait is told: more, less, and as usual; and what would confirm it.
_WORDS = {
    "uneven": ("One side of it is {how} {size} hotter than the average", *2 * ("Neither side of it is hotter than the other",)),
    "power": ("It {how} heats {size} more strongly than planned", "It {how} heats {size} less strongly than planned", "It heats as strongly as planned"),
    "top_element": (
        "Its top element is {how} {size} stronger than planned",
        "Its top element is {how} {size} weaker than planned",
        "Its top element is as strong as planned",
    ),
    "browning": ("Your doughs {how} brown {size} faster than most", "Your doughs {how} brown {size} slower than most", "Your doughs brown as fast as most"),
    "pull": (
        "Pizzas are {how} done {size} later than in an average kitchen",
        "Pizzas are {how} done {size} sooner than in an average kitchen",
        "Pizzas are done when they are in an average kitchen",
    ),
    "dial_k": (
        "It {how} runs {size} hotter than its dial says",
        "It {how} runs {size} cooler than its dial says",
        "It runs about as hot as its dial says",
    ),
}
_CONFIRM = {
    "uneven": "Turn the pizza half-way.",
    "power": "A log of one preheat would confirm it.",
    "top_element": confirmed_by("element"),
    "browning": confirmed_by("browning"),
    "pull": "Read the deck before a launch, to see whether that is the reason.",
    "dial_k": confirmed_by("oven"),
}


def trait_words(name: str, likely: float, half: float) -> str:
    """A trait as a sentence with how sure it is and what would confirm it; one that may as well be nothing is told as that."""
    more, less, same = _WORDS[name]

    def size(value: float) -> str:
        return f"{{{abs(value):.0f} K}}" if name == "dial_k" else f"{abs(value):.0f} %"

    # A side is called hotter when it likely is: one that is not need not be turned for.
    if abs(likely) < max((0.8 if name == "uneven" else 0.35) * half, 1.0):
        return f"{same}, give or take {size(half)}."
    how = how_sure(NormalDist().cdf(Z80 * abs(likely) / max(half, 1e-9)))
    return f"{(more if likely > 0 else less).format(how=how, size=size(likely))}, give or take {size(half)}. {_CONFIRM[name]}"


def outcomes(kitchen: Kitchen, logged: list[Logged]) -> list[Outcome]:
    """Every bake that told something, by its day, against what was foretold of it then."""
    found = []
    for one in sorted(logged, key=lambda one: (one.day, one.key)):
        told = kitchen.foretold.get(one.key)
        if told is None:
            continue
        half = Z80 * told.sd_ln
        low, likely, high = (one.lesson.likely_s * math.exp(told.off_ln + by) for by in (-half, 0.0, half))
        came = _came_ln(one.lesson)
        surprises = one.counts is None and bool(one.lesson.sightings) and told.counted < ASKS_BELOW
        found.append(
            Outcome(
                key=one.key,
                foretold_low_s=round(low, 1),
                foretold_s=round(likely, 1),
                foretold_high_s=round(high, 1),
                came_s=None if came is None else round(one.lesson.likely_s * math.exp(came), 1),
                # A look is no clock: what an eye may be off by is allowed for, as it is when the bake is weighed.
                inside=None if came is None else abs(told.z) <= Z80,
                counted=round(told.counted, 2),
                asks=surprises,
                deck_asks=one.counts is None and abs(told.deck_z) > SURPRISES_Z,
            )
        )
    return found


def _came_ln(lesson: Lesson) -> float | None:
    """When the crust was right by what was seen of it, ln against likely_s."""
    last: dict[str, float] = {seen.part: seen.off_ln for seen in lesson.sightings}
    weight = sum(share for part, share in zip(PARTS, lesson.shares, strict=True) if part in last)
    if weight <= 0.0:
        return None
    return sum(share * last[part] for part, share in zip(PARTS, lesson.shares, strict=True) if part in last) / weight


def worth(kitchen: Kitchen, hearth: str, rig: str) -> list[Worth]:
    """What one more measurement would be worth to the next bake of a rig, the most first."""
    lesson = usual_lessons(kitchen, hearth, rig)[0]
    pull = kitchen.pull_row(lesson, hearth, rig)
    before = float(pull @ kitchen.cov @ pull)
    looks = np.array([[*kitchen.part_row(lesson, part, hearth, rig)] for part in PARTS])
    eyes = np.diag([(EYE_L / USUAL_SLOPE_L) ** 2, (EYE_L / USUAL_SLOPE_L) ** 2, (EYE_CHEESE_L / USUAL_SLOPE_L) ** 2])
    dial, power = (np.eye(len(kitchen.names))[kitchen.at(f"h:{hearth}", name)] for name in ("dial_k", "power"))
    deck = 0.9 * dial + np.eye(len(kitchen.names))[kitchen.at(f"h:{hearth}", "deck_k")]
    tried = {
        "a bake logged": (looks, eyes),
        "a bake with photos": (looks, np.diag([(PHOTO_L / USUAL_SLOPE_L) ** 2] * 3)),
        "a deck reading": (deck[None, :], np.array([[READING_K["infrared"] ** 2]])),
        "a preheat log": (np.array([dial, power]), np.diag([LOG_DIAL_K**2, LOG_POWER**2])),
    }
    found = []
    for what, (rows, noise) in tried.items():
        told = rows @ kitchen.cov @ pull
        after = before - float(told @ np.linalg.solve(rows @ kitchen.cov @ rows.T + noise, told))
        found.append(Worth.model_validate({"what": what, "narrower_pct": round(100.0 * (1.0 - math.sqrt(max(0.0, after) / before)), 0)}))
    return sorted(found, key=lambda one: -one.narrower_pct)
