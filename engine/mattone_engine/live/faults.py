"""What may be wrong with an evening beyond the usual spread: an oven far off, a dead element, a heavier deck or base."""

from __future__ import annotations

import tomllib
from dataclasses import replace
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal

from pydantic import Field

from mattone_engine.heat.variation import Variation
from mattone_engine.things.base import StrictModel


class Fault(StrictModel):
    """One row of faults.toml. low, high: K for dial_k, else a factor; share: of all evenings; draws: of the first ones."""

    key: str
    about: Literal["dial_k", "deck_mass", "top_element", "loading"]
    low: float
    high: float
    share: Annotated[float, Field(gt=0, lt=0.2)]
    draws: Annotated[int, Field(ge=2)]

    @property
    def of_hearth(self) -> bool:
        """Whether an empty deck heats otherwise with it, so that a reading can show it."""
        return self.about != "loading"

    def applied(self, variation: Variation, at: float) -> Variation:
        """The variation with this fault; at: where between low and high, 0 to 1."""
        size = self.low + at * (self.high - self.low)
        if self.about == "dial_k":
            return replace(variation, dial_k=variation.dial_k + size)
        return replace(variation, **{self.about: getattr(variation, self.about) * size})


@cache
def faults() -> tuple[Fault, ...]:
    """The rows of faults.toml, in their order: a draw carries the place of its fault, counted from 1."""
    text = files("mattone_engine.live").joinpath("faults.toml").read_text(encoding="utf-8")
    return tuple(Fault.model_validate(row) for row in tomllib.loads(text)["fault"])
