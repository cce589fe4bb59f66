"""What hands have to do before a launch, one thing after another, so that the pizza lies ready when the deck does."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Literal

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.styles import style_of
from mattone_engine.supper.requests import handling_of
from mattone_engine.things.base import StrictModel
from mattone_engine.things.dough import Shape
from mattone_engine.things.release import release_agents

When = Literal["always", "topped", "peel", "paper", "pan", "frozen"]


class _Known(StrictModel):
    """One row of hands.toml."""

    label: str
    takes_s: int
    shapes: list[Shape]
    when: When = "always"


class HandStep(StrictModel):
    """Something for hands to begin so many seconds after the launch (negative: before it)."""

    at_s: float
    label: str


@cache
def _known() -> list[_Known]:
    text = files("mattone_engine.live").joinpath("hands.toml").read_text(encoding="utf-8")
    return [_Known.model_validate(row) for row in tomllib.loads(text)["step"]]


def hands_before(request: PlanInput, controls: Controls) -> list[HandStep]:
    """Every step of this plan at the moment it is to be begun; none overlaps the next."""
    bare = controls.par_bake_s is not None or controls.flip_s is not None
    true: dict[When, bool] = {
        "always": True,
        # A base that is baked bare is topped later.
        "topped": not bare and request.toppings.mass_g > 0.0,
        "frozen": not bare and controls.cheese_s is None and controls.cheese == "frozen" and request.toppings.mass_g > 0.0,
        "peel": request.pan is None and not request.parchment,
        "paper": request.pan is None and request.parchment,
        "pan": request.pan is not None,
    }
    steps = [one for one in _known() if request.dough.shape in one.shapes and true[one.when]]
    name = release_agents()[handling_of(style_of(request), None, request, controls).release].name
    agent = f"{name[0].upper()}{name[1:]}"
    at_s, found = 0.0, list[HandStep]()
    for one in reversed(steps):
        at_s -= one.takes_s
        found.insert(0, HandStep(at_s=at_s, label=one.label.format(release=agent)))
    return found
