"""The styles of pizza, one TOML file each."""

from __future__ import annotations

import math
import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import cast

from mattone_engine.things import Dough, Toppings
from mattone_engine.things.dough import Shape

# Families in the order they are offered; the last two want a flame or a grill.
FAMILIES = ("round", "thin", "tray", "pan", "flame", "grill")
OVEN_FAMILIES = FAMILIES[:4]


@dataclass(frozen=True)
class CrustTarget:
    """Wanted L* of bottom, rim and cheese."""

    bottom: float
    rim: float
    cheese: float


@dataclass(frozen=True)
class Style:
    """A style: its usual dough, its topping load, the crust it wants and the bake it is known for."""

    key: str
    name: str
    about: str
    family: str
    bake_s: tuple[float, float]
    deck_c: tuple[float, float]
    shape: Shape
    diameter_cm: float
    mass_g: float
    hydration_pct: float
    oil_pct: float
    sugar_pct: float
    topping_g_cm2: float
    topping_water_pct: float
    loss_pct: float
    core_c: float
    target: CrustTarget
    weight: CrustTarget

    @property
    def area_cm2(self) -> float:
        return math.pi * self.diameter_cm**2 / 4.0

    def dough(self) -> Dough:
        """The style's usual piece of dough."""
        return Dough(
            mass_g=self.mass_g,
            area_cm2=round(self.area_cm2, 1),
            hydration_pct=self.hydration_pct,
            oil_pct=self.oil_pct,
            sugar_pct=self.sugar_pct,
            shape=self.shape,
        )

    def toppings(self, load: float = 1.0) -> Toppings:
        """The style's usual topping, times `load`."""
        return Toppings(mass_g=round(load * self.topping_g_cm2 * self.area_cm2), water_pct=self.topping_water_pct)


@cache
def styles() -> dict[str, Style]:
    """All styles by key, in the order of their families."""
    found = {}
    for entry in sorted(files("mattone_engine.styles").iterdir(), key=lambda item: item.name):
        if entry.name.endswith(".toml"):
            row = tomllib.loads(entry.read_text(encoding="utf-8"))
            key = entry.name.removesuffix(".toml")
            row["bake_s"], row["deck_c"] = tuple(row["bake_s"]), tuple(row["deck_c"])
            row["target"], row["weight"] = CrustTarget(**row["target"]), CrustTarget(**row["weight"])
            row["shape"] = cast(Shape, row["shape"])
            found[key] = Style(key=key, **row)
    order = {family: place for place, family in enumerate(FAMILIES)}
    return dict(sorted(found.items(), key=lambda item: (order.get(item[1].family, 9), item[1].bake_s[0])))


def style(key: str) -> Style:
    """One style; keys are validated at the edge."""
    return styles()[key]
