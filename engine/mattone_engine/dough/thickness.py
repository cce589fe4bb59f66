"""A dough that is simply thinner or thicker than its style has it."""

from __future__ import annotations

from typing import Literal

from mattone_engine.things import Dough
from mattone_engine.things.dough import HEAVIEST_G

Thickness = Literal["thin", "usual", "thick"]
# Dough on the same area against what the style has.
OF_USUAL: dict[Thickness, float] = {"thin": 0.75, "usual": 1.0, "thick": 1.3}


def of_thickness(dough: Dough, thickness: Thickness) -> Dough:
    """The same base of so much dough."""
    return dough.model_copy(update={"mass_g": min(HEAVIEST_G, round(dough.mass_g * OF_USUAL[thickness], 1))})
