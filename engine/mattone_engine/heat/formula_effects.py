"""How the formula changes browning and the crumb."""

from __future__ import annotations

import math

from mattone_engine.things import Dough

FLOUR_MOISTURE = 0.14


def browning_factor(dough: Dough) -> float:
    """Browning against a lean dough, 1-1.6.

    Sugar left over after fermentation feeds both caramelisation and Maillard reactions: about
    +12 % a percent of flour, saturating (Purlis 2010, review). Oil conducts at the face and
    keeps it hotter: about +2 % a percent, saturating.
    """
    sugar = 0.45 * (1.0 - math.exp(-dough.sugar_pct / 3.0))
    oil = 0.15 * (1.0 - math.exp(-dough.oil_pct / 6.0))
    return (1.0 + sugar) * (1.0 + oil)


def moisture_kg_kg(dough: Dough) -> float:
    """Water per dry matter at launch: added water and the flour's own 14 %.

    Salt (2.5 %), oil and sugar count as dry matter.
    """
    water = dough.hydration_pct / 100.0 + FLOUR_MOISTURE
    dry = 1.0 - FLOUR_MOISTURE + 0.025 + (dough.oil_pct + dough.sugar_pct) / 100.0
    return water / dry
