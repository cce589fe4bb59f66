"""The global parameters of the bake model, from parameters.toml."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from types import MappingProxyType


@dataclass(frozen=True)
class Parameter:
    """A fitted or assumed constant with the range it must stay in."""

    value: float
    range: tuple[float, float]
    unit: str
    about: str
    # Why it must lie in its range; and whether the reference bakes set it, or it is taken from there.
    argument: str
    fitted: bool


@cache
def parameters() -> dict[str, Parameter]:
    """All parameters by name."""
    text = files("mattone_engine.heat").joinpath("parameters.toml").read_text(encoding="utf-8")
    return {
        name: Parameter(row["value"], (row["range"][0], row["range"][1]), row["unit"], row["about"], row["argument"], row["fitted"])
        for name, row in tomllib.loads(text).items()
    }


Values = Mapping[str, float]


@cache
def _usual() -> Values:
    return MappingProxyType(parameter_values())


def known(values: Values | None) -> Values:
    """These values, or those of parameters.toml; not to be changed."""
    return values if values is not None else _usual()


def parameter_values() -> dict[str, float]:
    """Just the values, free to be changed by a study."""
    return {name: parameter.value for name, parameter in parameters().items()}
