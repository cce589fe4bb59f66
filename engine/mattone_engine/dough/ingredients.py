"""What goes into a dough, as data."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Literal

from pydantic import Field

from mattone_engine.things.base import StrictModel

Role = Literal["flour", "liquid", "salt", "yeast", "starter", "fat", "sugar", "malt", "inclusion"]
Fill = Literal["spooned", "dipped", "sifted"]
ML_CUP, ML_TSP = 236.588, 4.92892
TSP_CUP = ML_CUP / ML_TSP


class Cup(StrictModel):
    """Grams in a cup by how it is filled."""

    spooned: float
    dipped: float
    sifted: float


class Ingredient(StrictModel):
    """One ingredient: what of it is water, sugar, fat, flour; what a spoon, cup or piece of it weighs.

    strength of a yeast is against instant, mass for mass.
    """

    key: str
    name: str
    role: Role
    water: float = 0.0
    sugar: float = 0.0
    fat: float = 0.0
    flour: float = 0.0
    protein: float | None = None
    strength: float = 1.0
    # Whether a flour holds gluten: what is read as one that does must be it.
    gluten: bool = True
    g_cup: Cup | None = None
    g_tsp: float | None = None
    g_piece: float | None = None
    words: tuple[str, ...] = Field(default=(), strict=False)

    @property
    def flour_share(self) -> float:
        """What of its mass counts as flour."""
        return 1.0 if self.role == "flour" else self.flour

    def g_ml(self, fill: Fill) -> float:
        """Grams a millilitre, as filled."""
        if self.g_cup is not None:
            return float(getattr(self.g_cup, fill)) / ML_CUP
        assert self.g_tsp is not None
        return self.g_tsp / ML_TSP


@cache
def ingredients() -> dict[str, Ingredient]:
    """All ingredients by key."""
    rows = tomllib.loads(files("mattone_engine.dough").joinpath("ingredients.toml").read_text(encoding="utf-8"))
    return {key: Ingredient(key=key, **row) for key, row in rows.items()}
