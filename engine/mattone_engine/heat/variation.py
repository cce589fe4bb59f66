"""What one bake differs in from what is told of it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from mattone_engine.heat.environment import dome_of, flame_floor_c
from mattone_engine.things import Hearth, SimulateInput
from mattone_engine.things.knowledge import Knowledge


@dataclass(frozen=True)
class Variation:
    """How one real bake differs from what its cook entered: factors (1: as entered) and shifts (0).

    deck_mass scales the deck's thickness, so its mass over each square metre; `deck_as_is` applies it.
    """

    dial_k: float = 0.0
    power: float = 1.0
    top_element: float = 1.0
    fan_film: float = 1.0
    uneven: float = 0.0
    browning: float = 1.0
    contact: float = 1.0
    loading: float = 1.0
    topping_water: float = 1.0
    deck_mass: float = 1.0

    @property
    def of_hearth(self) -> bool:
        """Whether the hearth heats otherwise than told, so that it must be heated anew."""
        factors = (self.power, self.top_element, self.fan_film, self.deck_mass)
        return bool(self.dial_k) or any(factor != 1.0 for factor in factors)


AS_TOLD = Variation()


def varied(hearth: Hearth, variation: Variation) -> Hearth:
    """The hearth as it really is. Nobody knows a fire's dome and floor better than a dial."""
    changes: dict[str, float] = {}
    if variation.dial_k and hearth.is_flame:
        changes |= {"floor_c": flame_floor_c(hearth) + variation.dial_k, "dome_c": dome_of(hearth) + variation.dial_k}
    elif variation.dial_k:
        changes["dial_error_k"] = hearth.dial_error_k + variation.dial_k
    if variation.power != 1.0 and not hearth.is_flame:
        changes["power_kw"] = hearth.power_kw * variation.power
    if variation.top_element != 1.0:
        changes["top_element_kw"] = hearth.top_element_kw * variation.top_element
    if variation.uneven:
        changes["uneven"] = max(0.0, hearth.uneven + variation.uneven)
    if variation.fan_film != 1.0:
        changes["fan_film"] = hearth.fan_film * variation.fan_film
    return hearth.model_copy(update=changes) if changes else hearth


def deck_as_is(spec: SimulateInput, variation: Variation) -> SimulateInput:
    """The bake on the deck it really has; the same object where that is the deck its cook entered."""
    if variation.deck_mass == 1.0 or spec.surface is None or not spec.has_deck:
        return spec
    surface = spec.surface.model_copy(update={"thickness_mm": spec.surface.thickness_mm * variation.deck_mass})
    return spec.model_copy(update={"surface": surface})


# Beliefs by the field of Variation they are about, those in K and shares first.
SHIFTS = {"dial_k": "dial_k", "uneven": "uneven"}
FACTORS = {
    "power": "power_ln",
    "top_element": "top_element_ln",
    "fan_film": "fan_film_ln",
    "browning": "browning_ln",
    "contact": "contact_ln",
    "loading": "loading_ln",
    "topping_water": "topping_water_ln",
}


def truth_off(known: Knowledge, widths: Callable[[str], float]) -> Variation:
    """Every belief as many 80 % half-widths off its mean as `widths` says."""

    def value(name: str) -> float:
        belief = getattr(known, name)
        return float(belief.mean + (widths(name) * belief.spread if belief.spread > 0.0 else 0.0))

    return Variation(**{field: value(name) for field, name in SHIFTS.items()}, **{field: math.exp(value(name)) for field, name in FACTORS.items()})


@lru_cache(maxsize=256)
def as_believed(known: Knowledge) -> Variation:
    """The likeliest truth: every belief at its mean. What is planned with."""
    return truth_off(known, lambda name: 0.0)
