"""Bakes as they may really be, drawn from what is known of them."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from mattone_engine.heat.parameters import parameters
from mattone_engine.heat.variation import FACTORS, SHIFTS, Variation, truth_off
from mattone_engine.things.knowledge import GENERAL, Knowledge

# 80 % of a normal distribution lies within this many standard deviations.
Z80 = 1.2816


def one_off_each(known: Knowledge) -> list[Variation]:
    """For each thing not known: the likeliest truth, but this one off by its 80 % half-width."""
    unsure = [name for name in (*SHIFTS.values(), *FACTORS.values()) if getattr(known, name).spread > 0.0]
    return [truth_off(known, lambda name, one=one: 1.0 if name == one else 0.0) for one in unsure]  # type: ignore[misc]


def drawn(known: Knowledge, rng: np.random.Generator) -> Variation:
    """One truth at random."""
    return truth_off(known, lambda name: float(rng.standard_normal()) / Z80)


# How many standard normal numbers place a truth, and how many the model's parameters.
DRAWN = len(SHIFTS) + len(FACTORS)
STRAYING = len(parameters())
# How far a drawn parameter strays, as a share of its range (standard deviation).
STRAYS = 0.16


def truth_at(known: Knowledge, place: np.ndarray) -> Variation:
    """The truth so many standard deviations off each belief's mean; place (DRAWN,), shifts first."""
    off = dict(zip((*SHIFTS.values(), *FACTORS.values()), place, strict=True))
    return truth_off(known, lambda name: float(off[name]) / Z80)


def strayed_values(place: np.ndarray, known: Knowledge = GENERAL) -> dict[str, float]:
    """The model's parameters strayed inside their ranges, in the logarithm, by standard normal numbers; place (STRAYING,).

    They stand for what the model itself gets wrong: less where a kitchen's bakes have taught how wrong it is there.
    """
    names, low, middle, high = _ranges_ln()
    share = STRAYS * known.model_ln.spread / GENERAL.model_ln.spread
    strayed = np.exp(np.clip(middle + share * (high - low) * place, low, high))
    return dict(zip(names, strayed.tolist(), strict=True))


@lru_cache(maxsize=1)
def _ranges_ln() -> tuple[tuple[str, ...], np.ndarray, np.ndarray, np.ndarray]:
    """The parameters' names, and logarithms of their lower ends, values and upper ends."""
    found = parameters()
    ends = np.log([(p.range[0], p.value, p.range[1]) for p in found.values()])
    return tuple(found), ends[:, 0], ends[:, 1], ends[:, 2]
