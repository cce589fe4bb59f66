"""How the formula changes browning, drying and the crumb. Every effect is bounded and monotonic."""

from __future__ import annotations

import math

from mattone_engine.things import Dough

FLOUR_MOISTURE = 0.14


def browning_factor(dough: Dough) -> float:
    """Browning against a lean dough, 1 to about 3.

    Sugar left over after fermentation feeds both caramelisation and Maillard reactions: about
    +12 % a percent of flour, saturating (Purlis 2010, review). Milk brings lactose (about 5 %),
    which yeast leaves, and lysine: a dough made wholly with milk browns about a third faster.
    Diastatic malt sets sugars free from starch: strong at half a percent, then saturating. A long
    cold rest does the same slowly and adds free amino acids: some +15 % in three days. Oil
    conducts at the face and keeps it hotter: about +2 % a percent, saturating. But for sugar,
    the sizes are trade experience put into saturating curves, not measurements.
    """
    sugar = 0.45 * _saturating(sugar_left_pct(dough.sugar_pct), 3.0)
    milk = 0.40 * _saturating(dough.milk_pct, 35.0)
    malt = 0.35 * _saturating(dough.malt_pct, 0.7)
    rest = 0.20 * _saturating(dough.cold_days, 2.0)
    oil = 0.15 * _saturating(dough.oil_pct, 6.0)
    return (1.0 + sugar) * (1.0 + milk) * (1.0 + malt) * (1.0 + rest) * (1.0 + oil)


def sugar_left_pct(added_pct: float) -> float:
    """Sugar that fermentation leaves, % of flour: yeast takes most of a little and about one percent of much."""
    return added_pct**2 / (added_pct + 1.0)


def drying_factor(dough: Dough) -> float:
    """How freely vapour moves in the crumb against a lean dough, 0.7 to 1.

    Starch scalded before mixing is swollen and holds several times its mass of water, so less of
    it moves as free vapour: up to -20 %. Oil films on the cell walls: up to -12 %. Both are
    reasoned from what scalded and rich doughs are made for, not measured.
    """
    return (1.0 - 0.20 * _saturating(dough.paste_pct, 10.0)) * (1.0 - 0.12 * _saturating(dough.oil_pct, 8.0))


def moisture_kg_kg(dough: Dough) -> float:
    """Water per dry matter at launch: added water (milk's own too) and the flour's own 14 %.

    Salt (2.5 %), oil, sugar and the solids of milk count as dry matter.
    """
    water = dough.hydration_pct / 100.0 + FLOUR_MOISTURE
    dry = 1.0 - FLOUR_MOISTURE + 0.025 + (dough.oil_pct + dough.sugar_pct + 0.12 * dough.milk_pct) / 100.0
    return water / dry


def _saturating(value: float, scale: float) -> float:
    """0 at 0, rising to 1."""
    return 1.0 - math.exp(-value / scale)
