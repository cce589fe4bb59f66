"""A kitchen that gets to know itself: what its bakes teach of the cook's dough, of each hearth, and of each rig.

Everything learned is one vector of normal unknowns: the browning of this cook's dough; of each hearth its dial, power, top
element and fan and what the model gets wrong in it, in all and on base, rim and cheese each; of each rig the same once more.
Lessons are weighed in one after another by the day of their bake (Kalman 1960), so that every unknown is shrunk to what is usual,
rigs of one hearth lend each other strength, and what a bake surprised by is known before it counts. With time every unknown drifts
back to what is usual (Uhlenbeck & Ornstein 1930): old bakes fade.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

import numpy as np

from mattone_engine.knowledge.truths import Z80
from mattone_engine.learn.lesson import CAUSES, PARTS, DeckReading, Lesson
from mattone_engine.things.knowledge import GENERAL

# Standard deviations of what is usual. The model's own error, ln(time): of a hearth and of a rig, in all and of each part, as the parameters'
# straying makes it over eight rigs (evidence: learning); of a deck, K.
_USUAL = {
    "dial_k": GENERAL.dial_k.spread, "power": GENERAL.power_ln.spread, "top_element": GENERAL.top_element_ln.spread,
    "fan_film": GENERAL.fan_film_ln.spread, "browning": GENERAL.browning_ln.spread,
}  # fmt: skip
USUAL_SD = {name: spread / Z80 for name, spread in _USUAL.items()}
HEARTH_LN, HEARTH_PART_LN, RIG_LN, RIG_PART_LN, DECK_K = 0.12, 0.13, 0.10, 0.09, 3.5
# What differs from bake to bake: portions and wetness as they are believed to; the day, and each part on a day, ln(time).
LOADING_SD, WATER_SD = GENERAL.loading_ln.spread / Z80, GENERAL.topping_water_ln.spread / Z80
DAY_LN, PART_LN = 0.03, 0.05
# So much of a reading's error is of the evening, not of the reading.
READING_SHARED = 0.5
# After so many days a lesson is worth a third of what it was.
FADES_DAYS = 1100.0
# Outside of 98 % a bake is asked about before it counts.
SURPRISES_Z = 2.33
# Until its cook says that it is right, a bake moves no pull by more than this factor: minutes are written down double or half.
MOVES_AT_MOST = 1.16

OF_HEARTH = ("dial_k", "power", "top_element", "fan_film", "all", *PARTS, "deck_k")
OF_RIG = ("all", *PARTS)
_SD_HEARTH = (*(USUAL_SD[name] for name in OF_HEARTH[:4]), HEARTH_LN, *(HEARTH_PART_LN,) * 3, DECK_K)
_SD_RIG = (RIG_LN, *(RIG_PART_LN,) * 3)


@dataclass(frozen=True)
class Measured:
    """A hearth of which a preheat log was put to use: standard deviations of dial (K) and power (ln) from then on."""

    hearth: str
    dial_sd_k: float
    power_sd: float


@dataclass(frozen=True)
class Logged:
    """A lesson with its bake's key, hearth, rig and day. counts: False is left out; None: as long as it does not surprise.

    shift: what is planned with today against what the lesson was worked out about, for each cause: its hearth was calibrated since.
    """

    key: str
    hearth: str
    rig: str
    day: float
    lesson: Lesson
    counts: bool | None = None
    shift: tuple[float, ...] = (0.0,) * len(CAUSES)


@dataclass(frozen=True)
class Foretold:
    """What was expected of a bake before it counted: ln of its right pull against the lesson's own likely_s, and how far off it came out.

    deck_z: the same of its deck. counted: how much of its looks counts: 1; 0 where it surprises; between where it would move
    too much and nobody has said that it is right.
    """

    off_ln: float
    sd_ln: float
    z: float
    deck_z: float
    counted: float


@dataclass
class Kitchen:
    """The unknowns by name, their means (n,) and covariance (n, n), and what was foretold of each bake."""

    names: list[tuple[str, str]]
    usual_var: np.ndarray
    mean: np.ndarray
    cov: np.ndarray
    day: float
    foretold: dict[str, Foretold] = field(default_factory=dict)
    counted: list[Logged] = field(default_factory=list)

    def at(self, of: str, name: str) -> int:
        """The place of an unknown."""
        return self._places[(of, name)]

    def __post_init__(self) -> None:
        self._places = {name: i for i, name in enumerate(self.names)}

    def pull_row(self, lesson: Lesson, hearth: str, rig: str) -> np.ndarray:
        """What each unknown adds to ln of a right pull, shape (n,)."""
        row = np.zeros(len(self.names))
        _put_causes(self, row, lesson.pull_by, hearth)
        for of in (f"h:{hearth}", f"r:{rig}"):
            row[self.at(of, "all")] = 1.0
            for part, share in zip(PARTS, lesson.shares, strict=True):
                row[self.at(of, part)] = share
        return row

    def part_row(self, lesson: Lesson, part: str, hearth: str, rig: str) -> np.ndarray:
        """What each unknown adds to ln of the moment at which one part is right, about as to the pull, shape (n,)."""
        row = np.zeros(len(self.names))
        _put_causes(self, row, lesson.pull_by, hearth)
        for of in (f"h:{hearth}", f"r:{rig}"):
            row[self.at(of, "all")] = row[self.at(of, part)] = 1.0
        return row

    def deck_row(self, deck: DeckReading, hearth: str) -> np.ndarray:
        """What each unknown adds to a deck at the moment of a reading, K, shape (n,)."""
        row = np.zeros(len(self.names))
        _put_causes(self, row, deck.by, hearth)
        row[self.at(f"h:{hearth}", "deck_k")] = 1.0
        return row

    def waited(self, day: float) -> None:
        """Time passes: every unknown drifts back to what is usual."""
        kept = math.exp(-max(0.0, day - self.day) / FADES_DAYS)
        self.mean = kept * self.mean
        self.cov = kept**2 * self.cov + (1.0 - kept**2) * np.diag(self.usual_var)
        self.day = max(day, self.day)


def _put_causes(kitchen: Kitchen, row: np.ndarray, by: Sequence[float], hearth: str) -> None:
    for name, value in zip(CAUSES, by, strict=True):
        if name == "browning":
            row[kitchen.at("cook", name)] = value
        elif name in OF_HEARTH:
            row[kitchen.at(f"h:{hearth}", name)] = value


def _untold(logged: Iterable[Logged], measured: Iterable[Measured], rigs: Iterable[tuple[str, str]]) -> Kitchen:
    """What is believed before anything is logged."""
    every = sorted({*((one.hearth, one.rig) for one in logged), *rigs})
    known = {one.hearth: one for one in measured}
    names: list[tuple[str, str]] = [("cook", "browning")]
    sd: list[float] = [USUAL_SD["browning"]]
    for hearth in sorted({hearth for hearth, _ in every} | set(known)):
        names += [(f"h:{hearth}", name) for name in OF_HEARTH]
        own = list(_SD_HEARTH)
        if hearth in known:
            own[0], own[1] = min(own[0], known[hearth].dial_sd_k), min(own[1], known[hearth].power_sd)
        sd += own
    for rig in sorted({rig for _, rig in every}):
        names += [(f"r:{rig}", name) for name in OF_RIG]
        sd += _SD_RIG
    variance = np.square(sd)
    return Kitchen(names, variance, np.zeros(len(names)), np.diag(variance), -math.inf)


def learned(logged: Sequence[Logged], *, measured: Iterable[Measured] = (), rigs: Iterable[tuple[str, str]] = (), today: float | None = None) -> Kitchen:
    """What the bakes teach, weighed in by their days; rigs: (hearth, rig) to be told of though nothing was logged on them."""
    kitchen = _untold(logged, measured, rigs)
    for one in sorted((one for one in logged if one.counts is not False), key=lambda one: (one.day, one.key)):
        kitchen.waited(one.day)
        _weigh(kitchen, one)
    if today is not None:
        kitchen.waited(today)
    return kitchen


def _weigh(kitchen: Kitchen, one: Logged) -> None:
    """One lesson, unless it surprises and nobody said that it is right. Looks and readings stand each for themselves."""
    pull = kitchen.pull_row(one.lesson, one.hearth, one.rig)
    expected = float(pull @ kitchen.mean) + _by_shift(one.lesson.pull_by, one)
    sd = math.sqrt(float(pull @ kitchen.cov @ pull) + own_pull_var(one.lesson))
    is_right = one.counts is True
    decks, deck_z = _decks(kitchen, one), 0.0
    if decks.off.size:
        deck_z = decks.common_z(kitchen)
        if is_right or abs(deck_z) <= SURPRISES_Z:
            _update(kitchen, decks)
    seen, z, weight = _sightings(kitchen, one), 0.0, 0.0
    if seen.off.size:
        z = seen.common_z(kitchen)
        weight = 1.0 if is_right else 0.0 if abs(z) > SURPRISES_Z else _bounded(kitchen, seen, pull)
        if weight > 0.0:
            _update(kitchen, seen.worth(weight))
            kitchen.counted.append(one)
    kitchen.foretold[one.key] = Foretold(expected, sd, z, deck_z, weight)


@dataclass(frozen=True)
class _Observed:
    """Rows (m, n) of what each unknown adds to each observation, the observations (m,), and the covariance (m, m) of what they share and err by."""

    rows: np.ndarray
    off: np.ndarray
    noise: np.ndarray

    def worth(self, weight: float) -> _Observed:
        """The same, believed less."""
        return _Observed(self.rows, self.off, self.noise / weight)

    def missed(self, kitchen: Kitchen) -> np.ndarray:
        """How far they lie from what is believed."""
        return np.asarray(self.off - self.rows @ kitchen.mean)

    def gain(self, kitchen: Kitchen) -> np.ndarray:
        """Kalman's gain, shape (n, m)."""
        return np.asarray(np.linalg.solve(self.rows @ kitchen.cov @ self.rows.T + self.noise, self.rows @ kitchen.cov).T)

    def common_z(self, kitchen: Kitchen) -> float:
        """How far all of them are off together, in standard deviations: their best sum."""
        spread = self.rows @ kitchen.cov @ self.rows.T + self.noise
        best = np.linalg.solve(spread, np.ones(self.off.size))
        return float(best @ self.missed(kitchen)) / math.sqrt(float(best.sum()))


def _update(kitchen: Kitchen, seen: _Observed) -> None:
    gain = seen.gain(kitchen)
    kitchen.mean = kitchen.mean + gain @ seen.missed(kitchen)
    # Joseph's form: it stays symmetric and positive after any number of bakes.
    left = np.eye(len(kitchen.names)) - gain @ seen.rows
    kitchen.cov = left @ kitchen.cov @ left.T + gain @ seen.noise @ gain.T


def _bounded(kitchen: Kitchen, seen: _Observed, pull: np.ndarray) -> float:
    """The most weight, up to 1, at which a bake moves its rig's pull by no more than MOVES_AT_MOST."""
    most, missed = math.log(MOVES_AT_MOST), seen.missed(kitchen)

    def moves(weight: float) -> float:
        return abs(float(pull @ seen.worth(weight).gain(kitchen) @ missed))

    low, high = 1e-3, 1.0
    if moves(high) <= most:
        return high
    for _ in range(12):
        middle = math.sqrt(low * high)
        low, high = (middle, high) if moves(middle) <= most else (low, middle)
    return low


def own_pull_var(lesson: Lesson) -> float:
    """How far one bake's right pull strays from its rig's, squared ln."""
    by = dict(zip(CAUSES, lesson.pull_by, strict=True))
    return (by["loading"] * LOADING_SD) ** 2 + (by["topping_water"] * WATER_SD) ** 2 + DAY_LN**2 + PART_LN**2 * sum(share**2 for share in lesson.shares)


def _sightings(kitchen: Kitchen, one: Logged) -> _Observed:
    lesson = one.lesson
    rows = np.zeros((len(lesson.sightings), len(kitchen.names)))
    for seen, row in zip(lesson.sightings, rows, strict=True):
        _put_causes(kitchen, row, seen.by, one.hearth)
        for of in (f"h:{one.hearth}", f"r:{one.rig}"):
            row[kitchen.at(of, "all")] = row[kitchen.at(of, seen.part)] = 1.0
    own = np.array([seen.by[5:7] for seen in lesson.sightings]).reshape(-1, 2) * (LOADING_SD, WATER_SD)
    parts = np.array([seen.part for seen in lesson.sightings])
    alike = (parts[:, None] == parts[None, :]).astype(float)
    noise = own @ own.T + DAY_LN**2 + PART_LN**2 * alike + np.diag([seen.noise_ln**2 for seen in lesson.sightings])
    return _Observed(rows, np.array([seen.off_ln - _by_shift(seen.by, one) for seen in lesson.sightings]), noise)


def _decks(kitchen: Kitchen, one: Logged) -> _Observed:
    decks = one.lesson.decks
    rows = np.array([kitchen.deck_row(deck, one.hearth) for deck in decks]).reshape(len(decks), len(kitchen.names))
    errors = np.array([deck.noise_k for deck in decks])
    noise = READING_SHARED * np.outer(errors, errors) + (1.0 - READING_SHARED) * np.diag(errors**2)
    return _Observed(rows, np.array([deck.off_k - _by_shift(deck.by, one) for deck in decks]), noise)


def _by_shift(by: Sequence[float], one: Logged) -> float:
    """How much of what a lesson found is known by today's figures of its hearth."""
    return sum(value * shift for value, shift in zip(by, one.shift, strict=True))
