"""The global parameters of the bake model, from parameters.toml."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files


@dataclass(frozen=True)
class Parameter:
    """A fitted or assumed constant with the range it must stay in."""

    value: float
    range: tuple[float, float]
    unit: str
    about: str


@cache
def parameters() -> dict[str, Parameter]:
    """All parameters by name."""
    text = files("mattone_engine.heat").joinpath("parameters.toml").read_text(encoding="utf-8")
    return {name: Parameter(row["value"], (row["range"][0], row["range"][1]), row["unit"], row["about"]) for name, row in tomllib.loads(text).items()}


def parameter_values() -> dict[str, float]:
    """Just the values, free to be changed by a study."""
    return {name: parameter.value for name, parameter in parameters().items()}
