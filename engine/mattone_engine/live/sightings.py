"""How likely a bake makes what was told: readings of the deck, looks at the crust, other signs.

A reading lies about the deck's face, with long tails. A look names a word or the nearest of a row of swatches: an eye in a
kitchen is good to about half a word, normal in L*, and one look in twenty-five is a slip that says nothing.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from scipy.special import ndtr

from mattone_engine.heat.colour import CHEESE_WORDS, WORDS
from mattone_engine.heat.outcome import SET_KG_M2, Series, value_at
from mattone_engine.heat.preheat import Preheat
from mattone_engine.knowledge.truths import Z80
from mattone_engine.live.journal import Reading, Seen, Sign
from mattone_engine.things.knowledge import Belief

# An eye is within half a word eight times in ten, L*: a word is some 8 wide, of cheese some 6. Standard deviations.
EYE_L = 4.0 / Z80
EYE_CHEESE_L = 3.0 / Z80
# A photo is within 3 L* at its worst, and china may be taken for paper. Standard deviation.
PHOTO_L = 2.0
# The swatches a look is matched with, L*: two to a word.
SWATCHES_L = tuple(float(l_star) for l_star in range(84, 27, -4))
# A look that says nothing: the wrong part, the wrong swatch tapped.
SLIP = 0.04
# Standard deviation of a reading beside the deck's mean face, K: where it was taken, and of what emissivity.
READING_K = {"infrared": 7.0, "probe": 5.0, "flour": 20.0}
# Water under the sauce from which a centre looks wet, kg/m2, and how sharply.
LOOKS_WET_KG_M2, WET_SPREAD = SET_KG_M2, 0.03
# How many biases of an eye are summed over, and how far out, in its standard deviations.
BIASES, WIDEST = 25, 6.0
# How much stronger one side's heat is where it shows, and how sharply.
SHOWS_UNEVEN, UNEVEN_SPREAD = 0.06, 0.05


def normal_below(z: float) -> float:
    """Share of a standard normal below z."""
    return 0.5 * (1.0 + math.erf(z / math.sqrt(2.0)))


def shade_ln(words: tuple[tuple[str, float], ...], seen: str | float, l_star: np.ndarray, eye_l: float) -> np.ndarray:
    """ln of how likely a crust of this L* is called by this word, or matched with a swatch of this L* (against one a word wide)."""
    if not isinstance(seen, str):
        share = np.exp(-0.5 * ((seen - l_star) / eye_l) ** 2)
    else:
        i = [name for name, _ in words].index(seen)
        above = math.inf if i == 0 else words[i - 1][1]
        below = -math.inf if i == len(words) - 1 else words[i][1]
        share = np.maximum(ndtr((above - l_star) / eye_l) - ndtr((below - l_star) / eye_l), 0.0)
    return np.asarray(np.log((1.0 - SLIP) * share + SLIP / len(words)))


def looks_ln(looks: tuple[Seen, ...], bakes: Sequence[Series], eye: Belief) -> np.ndarray:
    """ln of how likely each of these bakes makes these looks, over all that the eye's own bias may be; shape (bakes,)."""
    biases_l, ln = _biases(eye)
    whole = looks_by_bias(looks, bakes, biases_l) + ln
    top = whole.max(axis=1)
    return np.asarray(top + np.log(np.exp(whole - top[:, None]).sum(axis=1)))


def bias_of(looks: tuple[Seen, ...], bakes: Sequence[Series], eye: Belief) -> tuple[np.ndarray, np.ndarray]:
    """Biases that the eye may have, L* (BIASES,), and how likely each is if this is the bake that was seen, sum 1; shape (bakes, BIASES)."""
    biases_l, ln = _biases(eye)
    found = looks_by_bias(looks, bakes, biases_l) + ln
    whole = np.exp(found - found.max(axis=1)[:, None])
    return biases_l, np.asarray(whole / whole.sum(axis=1)[:, None])


def looks_by_bias(looks: tuple[Seen, ...], bakes: Sequence[Series], biases_l: np.ndarray) -> np.ndarray:
    """ln of how likely each bake makes these looks, for each bias of the eye, shape (bakes, biases). A photo has none."""
    total = np.zeros((len(bakes), biases_l.size))
    for look in looks:
        for part, words, name, eye_l in (("base", WORDS, "base_l", EYE_L), ("rim", WORDS, "rim_l", EYE_L), ("cheese", CHEESE_WORDS, "cheese_l", EYE_CHEESE_L)):
            seen = getattr(look, part)
            if seen is None:
                continue
            l_star = np.array([value_at(s.t_s, getattr(s, name), look.at_s) for s in bakes])[:, None]
            total += shade_ln(words, seen, l_star, PHOTO_L) if part in look.measured else shade_ln(words, seen, l_star + biases_l, eye_l)
    return total


@lru_cache(maxsize=64)
def _biases(eye: Belief) -> tuple[np.ndarray, np.ndarray]:
    """Biases to sum over, L*, and ln of what each is believed: normal, with one eye in ten three times as far off."""
    sd = max(0.2, eye.spread / Z80)
    at = np.linspace(-WIDEST, WIDEST, BIASES)
    believed = 0.9 * np.exp(-0.5 * at**2) + 0.1 / 3.0 * np.exp(-0.5 * (at / 3.0) ** 2)
    return eye.mean + sd * at, np.log(believed / believed.sum())


def signs_ln(signs: tuple[Sign, ...], s: Series, uneven: float) -> float:
    """ln of how likely this bake makes these signs; most tell what to do, not how the bake stands."""
    total = 0.0
    for kind in {sign.kind for sign in signs}:
        last = max(sign.at_s for sign in signs if sign.kind == kind)
        if kind == "centre_wet":
            share = normal_below((value_at(s.t_s, s.wet_kg_m2, last) - LOOKS_WET_KG_M2) / WET_SPREAD)
        elif kind == "one_side_darker":
            share = normal_below((uneven - SHOWS_UNEVEN) / UNEVEN_SPREAD)
        else:
            continue
        total += math.log((1.0 - SLIP) * share + 0.5 * SLIP)
    return total


def readings_ln(readings: tuple[Reading, ...], heated: Preheat) -> float:
    """ln of how likely a deck that heats like this makes these readings.

    Readings of one minute share what is wrong with them: together they count as one.
    """
    total = 0.0
    for reading, count in _by_the_minute(readings):
        off = (reading.deck_c - value_at(heated.t_s, heated.deck_c, reading.since_heat_s)) / READING_K[reading.by]
        # Long tails (Student's t, 4): one that is far off counts, but never as much as it would of a perfect instrument.
        total -= 2.5 * math.log1p(off * off / 4.0) / count
    return total


def _by_the_minute(readings: tuple[Reading, ...]) -> list[tuple[Reading, int]]:
    """Each reading with how many there are in its minute."""
    minutes = [int(one.since_heat_s // 60.0) for one in readings]
    return [(one, minutes.count(minute)) for one, minute in zip(readings, minutes, strict=True)]
