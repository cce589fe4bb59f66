"""A kitchen that gets to know itself: what its bakes teach of the cook's dough and eye, of each hearth, and of each rig.

Everything learned is one vector of normal unknowns: the browning of this cook's dough and how pale the cook's eye reads; of each
hearth its dial, power, top element, fan and hotter side, and what the model gets wrong in it, in all and on base, rim and cheese
each; of each rig the same once more. Lessons are weighed in one after another by the day of their bake (Kalman 1960), so that
every unknown is shrunk to what is usual, rigs of one hearth lend each other strength, and what a bake surprised by is known
before it counts. How careless a cook's records are is estimated from what is left of them (inverse gamma, with a prior worth
NOISE_BAKES bakes): careless ones teach less, and windows stay wider. With time every unknown drifts back to what is usual
(Uhlenbeck & Ornstein 1930): old bakes fade.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

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
# What a record of a bake errs by in all: the day, and when its cook thinks that it was right, ln(time).
RECORD_LN = 0.06
# So much of a reading's error is of the evening, not of the reading.
READING_SHARED = 0.5
# After so many days a lesson is worth a third of what it was.
FADES_DAYS = 1100.0
# A bake this far off counts in full; outside of 98 % it is asked about before it counts; in between ever less.
ORDINARY_Z, SURPRISES_Z = 2.0, 2.33
# Until its cook says that it is right, a bake that is no longer ordinary moves no pull by more than this factor: minutes are written down
# double or half.
MOVES_AT_MOST = 1.16
STEEP = 4
# What is believed of a cook's records before any is so many bakes' worth; how much more and less careless than usual they are taken to be.
NOISE_BAKES, USUAL_NOISE, MOST_NOISE, LEAST_NOISE = 5.0, 2.0, 9.0, 0.5
# A cook's eye reads too pale or too dark by so much, L*, of which so much is of one part alone (standard deviations).
EYE_BIAS_L, EYE_PART_L = GENERAL.eye_l.spread / Z80, 1.5
OF_COOK = ("browning", "eye_l", *(f"eye_{part}" for part in PARTS))

# So many of CAUSES stay from bake to bake; the others are each bake's own.
STAY = 5
OF_HEARTH = ("dial_k", "power", "top_element", "fan_film", "all", *PARTS, "deck_k", "uneven")
OF_RIG = ("all", *PARTS)
_SD_HEARTH = (*(USUAL_SD[name] for name in OF_HEARTH[:4]), HEARTH_LN, *(HEARTH_PART_LN,) * 3, DECK_K, GENERAL.uneven.spread / Z80)
# The same by name.
USUAL_HEARTH_SD = dict(zip(OF_HEARTH, _SD_HEARTH, strict=True))
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

    def __hash__(self) -> int:
        # Enough to tell most from each other; the whole lesson would cost more than weighing it.
        return hash((self.key, self.rig, self.day, self.counts, self.lesson.pulled_s, len(self.lesson.sightings)))


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
    measured: tuple[Measured, ...] = ()
    foretold: dict[str, Foretold] = field(default_factory=dict)
    counted: list[Logged] = field(default_factory=list)
    # How often anything was weighed in: a deck that was read counts, though nobody said how the bake came out.
    weighed: int = 0
    # Of the records so far: how many, and the sum of what was left of each, as its variance against the usual.
    records: tuple[int, float] = (0, 0.0)

    def __post_init__(self) -> None:
        self._places = {name: i for i, name in enumerate(self.names)}
        hearths = {of for of, _ in self.names if of.startswith("h:")}
        self._causes = {of: [self._places[(of, name)] for name in OF_HEARTH[: STAY - 1]] + [self._places[("cook", "browning")]] for of in hearths}

    @property
    def noise(self) -> float:
        """How careless this cook's records are: their variance against the usual."""
        count, left = self.records
        return min(MOST_NOISE, max(LEAST_NOISE, (NOISE_BAKES * USUAL_NOISE + left) / (NOISE_BAKES + count)))

    def at(self, of: str, name: str) -> int:
        """The place of an unknown."""
        return self._places[(of, name)]

    def causes(self, hearth: str) -> list[int]:
        """The places of what may be why in a hearth, in the order of CAUSES: those that stay from bake to bake."""
        return self._causes[f"h:{hearth}"]

    def including(self, rigs: Iterable[tuple[str, str]]) -> Kitchen:
        """The same with these (hearth, rig), of which nothing more is known than what is usual; a copy, to be weighed on."""
        names, sd = list(self.names), list[float]()
        for hearth, rig in rigs:
            for of, own, usual in ((f"h:{hearth}", OF_HEARTH, self._usual_of(hearth)), (f"r:{rig}", OF_RIG, _SD_RIG)):
                if (of, "all") not in names:
                    names += [(of, name) for name in own]
                    sd += usual
        before, more = len(self.names), np.square(sd)
        cov = np.zeros((len(names), len(names)))
        cov[:before, :before] = self.cov
        cov[range(before, len(names)), range(before, len(names))] = more
        mean = np.concatenate([self.mean, np.zeros(more.size)])
        usual_var = np.concatenate([self.usual_var, more])
        return Kitchen(names, usual_var, mean, cov, self.day, self.measured, dict(self.foretold), list(self.counted), self.weighed, self.records)

    def _usual_of(self, hearth: str) -> Sequence[float]:
        """What is usual of a hearth, or as a log measured it; standard deviations."""
        known = next((one for one in self.measured if one.hearth == hearth), None)
        if known is None:
            return _SD_HEARTH
        return (min(_SD_HEARTH[0], known.dial_sd_k), min(_SD_HEARTH[1], known.power_sd), *_SD_HEARTH[2:])

    def pull_row(self, lesson: Lesson, hearth: str, rig: str) -> np.ndarray:
        """What each unknown adds to ln of a right pull, shape (n,)."""
        row = np.zeros(len(self.names))
        row[self.causes(hearth)] = lesson.pull_by[:STAY]
        for of in (f"h:{hearth}", f"r:{rig}"):
            row[self.at(of, "all")] = 1.0
            for part, share in zip(PARTS, lesson.shares, strict=True):
                row[self.at(of, part)] = share
        return row

    def part_row(self, lesson: Lesson, part: str, hearth: str, rig: str) -> np.ndarray:
        """What each unknown adds to ln of the moment at which one part is right, about as to the pull, shape (n,)."""
        row = np.zeros(len(self.names))
        row[self.causes(hearth)] = lesson.pull_by[:STAY]
        for of in (f"h:{hearth}", f"r:{rig}"):
            row[self.at(of, "all")] = row[self.at(of, part)] = 1.0
        return row

    def deck_row(self, deck: DeckReading, hearth: str) -> np.ndarray:
        """What each unknown adds to a deck at the moment of a reading, K, shape (n,)."""
        row = np.zeros(len(self.names))
        row[self.causes(hearth)] = deck.by[:STAY]
        row[self.at(f"h:{hearth}", "deck_k")] = 1.0
        return row

    def waited(self, day: float) -> None:
        """Time passes: every unknown drifts back to what is usual."""
        kept = math.exp(-max(0.0, day - self.day) / FADES_DAYS)
        self.mean = kept * self.mean
        self.cov = kept**2 * self.cov + (1.0 - kept**2) * np.diag(self.usual_var)
        self.day = max(day, self.day)


def learned(logged: Sequence[Logged], *, measured: Iterable[Measured] = (), rigs: Iterable[tuple[str, str]] = (), today: float | None = None) -> Kitchen:
    """What the bakes teach, weighed in by their days; rigs: (hearth, rig) to be told of though nothing was logged on them."""
    counted = tuple(sorted((one for one in logged if one.counts is not False), key=lambda one: (one.day, one.key)))
    kitchen = _weighed(counted, tuple(sorted(measured, key=lambda one: one.hearth))).including(rigs)
    if today is not None:
        kitchen.waited(today)
    return kitchen


# So many lessons at a time: a new one is weighed onto what was remembered of those before it.
AT_A_TIME = 16


@lru_cache(maxsize=128)
def _weighed(logged: tuple[Logged, ...], measured: tuple[Measured, ...]) -> Kitchen:
    """The kitchen after these lessons; remembered, and not to be changed."""
    if not logged:
        usual = np.array([USUAL_SD["browning"] ** 2, EYE_BIAS_L**2 - EYE_PART_L**2, *(EYE_PART_L**2,) * len(PARTS)])
        return Kitchen([("cook", name) for name in OF_COOK], usual, np.zeros(usual.size), np.diag(usual), -math.inf, measured)
    before = (len(logged) - 1) // AT_A_TIME * AT_A_TIME
    kitchen = _weighed(logged[:before], measured).including((one.hearth, one.rig) for one in logged[before:])
    for one in logged[before:]:
        kitchen.waited(one.day)
        _weigh(kitchen, one)
    return kitchen


def _weigh(kitchen: Kitchen, one: Logged) -> None:
    """One lesson, unless it surprises and nobody said that it is right. Looks and readings stand each for themselves."""
    pull = kitchen.pull_row(one.lesson, one.hearth, one.rig)
    expected = float(pull @ kitchen.mean) + _by_shift(one.lesson.pull_by, one)
    sd = math.sqrt(float(pull @ kitchen.cov @ pull) + own_pull_var(one.lesson))
    is_right = one.counts is True
    deck_z, z, weight = 0.0, 0.0, 0.0
    if one.lesson.decks:
        told = _against(kitchen, _decks(kitchen, one))
        deck_z = told.common_z
        if is_right or abs(deck_z) <= SURPRISES_Z:
            _update(kitchen, told)
    if one.lesson.sightings:
        seen = _sightings(kitchen, one)
        told = _against(kitchen, seen)
        z = told.common_z
        weight = 1.0 if is_right else _weight(kitchen, seen, pull, abs(z))
        _count_record(kitchen, seen)
        if weight > 0.0:
            _update(kitchen, told if weight == 1.0 else _against(kitchen, seen.worth(weight)))
            kitchen.counted.append(one)
    if one.lesson.uneven is not None:
        _update(kitchen, _against(kitchen, _sides(kitchen, one)))
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


@dataclass(frozen=True)
class _Innovation:
    """Observations against what is believed: how far off (m,), what the unknowns share with them (n, m), and the inverse of their covariance (m, m)."""

    missed: np.ndarray
    shared: np.ndarray
    inverse: np.ndarray

    @property
    def common_z(self) -> float:
        """How far all of them are off together, in standard deviations: their best sum."""
        best = self.inverse.sum(axis=0)
        return float(best @ self.missed) / math.sqrt(float(best.sum()))


def _weight(kitchen: Kitchen, seen: _Observed, pull: np.ndarray, z: float) -> float:
    """How much a bake so far off counts: in full where that is ordinary, not at all where it surprises, and without a step between."""
    if z <= ORDINARY_Z:
        return 1.0
    if z > SURPRISES_Z:
        return 0.0
    share = ((SURPRISES_Z - z) / (SURPRISES_Z - ORDINARY_Z)) ** STEEP
    return share + (1.0 - share) * _bounded(kitchen, seen, pull)


def _count_record(kitchen: Kitchen, seen: _Observed) -> None:
    """One more record: how much of what it is off by is likely its own, by its best sum (expectation step; Dempster, Laird & Rubin 1977)."""
    told = _against(kitchen, seen)
    best = told.inverse.sum(axis=0)
    missed = float(best @ told.missed)
    noise = float(best @ seen.noise @ best)
    whole = float(best @ (seen.rows @ kitchen.cov @ seen.rows.T + seen.noise) @ best)
    if noise <= 0.0 or whole <= 0.0:
        return
    of_it = noise / whole
    left = ((of_it * missed) ** 2 + (1.0 - of_it) * noise) / (noise / kitchen.noise)
    count, before = kitchen.records
    # One record, however far off, is not taken for a habit.
    kitchen.records = (count + 1, before + min(MOST_NOISE, left))


def _against(kitchen: Kitchen, seen: _Observed) -> _Innovation:
    shared = kitchen.cov @ seen.rows.T
    return _Innovation(seen.off - seen.rows @ kitchen.mean, shared, np.linalg.inv(seen.rows @ shared + seen.noise))


def _update(kitchen: Kitchen, told: _Innovation) -> None:
    kitchen.weighed += 1
    gain = told.shared @ told.inverse
    kitchen.mean = kitchen.mean + gain @ told.missed
    cov = kitchen.cov - gain @ told.shared.T
    # What rounding makes of it in a thousand bakes stays symmetric.
    kitchen.cov = 0.5 * (cov + cov.T)


def _bounded(kitchen: Kitchen, seen: _Observed, pull: np.ndarray) -> float:
    """The most weight, up to 1, at which a bake moves its rig's pull by no more than MOVES_AT_MOST."""
    most = math.log(MOVES_AT_MOST)

    def moves(weight: float) -> float:
        told = _against(kitchen, seen.worth(weight))
        return abs(float(pull @ told.shared @ told.inverse @ told.missed))

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
    by = np.array([seen.by for seen in lesson.sightings]).reshape(-1, len(CAUSES))
    rows[:, kitchen.causes(one.hearth)] = by[:, :STAY]
    parts = [seen.part for seen in lesson.sightings]
    for of in (f"h:{one.hearth}", f"r:{one.rig}"):
        rows[:, kitchen.at(of, "all")] = 1.0
        rows[np.arange(len(parts)), [kitchen.at(of, part) for part in parts]] = 1.0
    by_eye = [seen.by_eye for seen in lesson.sightings]
    rows[:, kitchen.at("cook", "eye_l")] = by_eye
    rows[np.arange(len(parts)), [kitchen.at("cook", f"eye_{part}") for part in parts]] = by_eye
    own = by[:, STAY:] * (LOADING_SD, WATER_SD)
    named = np.array(parts)
    alike = (named[:, None] == named[None, :]).astype(float)
    noise = own @ own.T + RECORD_LN**2 + PART_LN**2 * alike + np.diag([seen.noise_ln**2 for seen in lesson.sightings])
    return _Observed(rows, np.array([seen.off_ln - _by_shift(seen.by, one) for seen in lesson.sightings]), kitchen.noise * noise)


def _decks(kitchen: Kitchen, one: Logged) -> _Observed:
    decks = one.lesson.decks
    rows = np.array([kitchen.deck_row(deck, one.hearth) for deck in decks]).reshape(len(decks), len(kitchen.names))
    errors = np.array([deck.noise_k for deck in decks])
    noise = READING_SHARED * np.outer(errors, errors) + (1.0 - READING_SHARED) * np.diag(errors**2)
    return _Observed(rows, np.array([deck.off_k - _by_shift(deck.by, one) for deck in decks]), noise)


def _sides(kitchen: Kitchen, one: Logged) -> _Observed:
    told = one.lesson.uneven
    assert told is not None
    row = np.zeros((1, len(kitchen.names)))
    row[0, kitchen.at(f"h:{one.hearth}", "uneven")] = told.by_l
    return _Observed(row, np.array([told.off_l]), np.array([[told.noise_l**2]]))


def _by_shift(by: Sequence[float], one: Logged) -> float:
    """How much of what a lesson found is known by today's figures of its hearth."""
    return sum(value * shift for value, shift in zip(by, one.shift, strict=True))
