"""The catalogue of materials."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files


@dataclass(frozen=True)
class Material:
    """conductivity W/mK, density kg/m3, heat J/kgK, emissivity 0-1."""

    name: str
    conductivity: float
    density: float
    heat: float
    emissivity: float

    @property
    def effusivity(self) -> float:
        """sqrt(k rho c), W s^0.5 / m2 K."""
        return float((self.conductivity * self.density * self.heat) ** 0.5)


@cache
def materials() -> dict[str, Material]:
    """All materials by the kind of surface or pan made of them."""
    text = files("mattone_engine.things").joinpath("materials.toml").read_text(encoding="utf-8")
    return {key: Material(**row) for key, row in tomllib.loads(text).items()}
