"""Tomatoes cooked down to a sauce: how much to begin with, and how long."""

from __future__ import annotations

from dataclasses import dataclass

# What a gentle simmer boils off an open pot, g/min: some 0.6 kW net of a burner over 2.26 kJ/g.
BOILED_G_MIN = 16.0
# A small pot still wants its time to come together, a large one is split or goes into a wider pan, min.
LEAST_MIN, MOST_MIN = 15.0, 75.0


@dataclass(frozen=True)
class CookedDown:
    """raw_g: crushed tomatoes to begin with; boiled_g: water that goes; minutes: at a gentle simmer."""

    raw_g: float
    boiled_g: float
    minutes: float


def cooked_down(sauce_g: float, raw_water_pct: float, water_pct: float) -> CookedDown:
    """For so much sauce: what is not water stays."""
    raw_g = sauce_g * (100.0 - water_pct) / (100.0 - raw_water_pct)
    boiled_g = raw_g - sauce_g
    return CookedDown(raw_g, boiled_g, min(MOST_MIN, max(LEAST_MIN, boiled_g / BOILED_G_MIN)))
