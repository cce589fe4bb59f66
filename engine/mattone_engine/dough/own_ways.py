"""Ways that are offered to pieces which leave the rest when the dough is divided."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Any

from mattone_engine.dough.rise import PLACE_C, RiseStep
from mattone_engine.things.base import StrictModel

# What balls do where nothing else is said.
REST_H = 2.0


def _balls_in(place: str, hours: float) -> RiseStep:
    return RiseStep(hours=hours, temp_c=PLACE_C[place], stage="balls", place=place)


class OfferedWay(StrictModel):
    """A way by name, with its places from the dividing on."""

    key: str
    name: str
    steps: list[RiseStep]


@cache
def _rows() -> dict[str, dict[str, Any]]:
    return tomllib.loads(files("mattone_engine.dough").joinpath("ways.toml").read_text(encoding="utf-8"))


def offered_ways(steps: tuple[RiseStep, ...]) -> list[OfferedWay]:
    """What pieces of a dough that goes these steps may do instead: the same but later, or frozen."""
    rest = [step for step in steps if step.stage != "bulk"] or [_balls_in("room", REST_H)]
    found = []
    for key, row in _rows().items():
        if "steps" in row:
            way = [_balls_in(step["place"], step["hours"]) for step in row["steps"]]
        else:
            way = _later(rest, row["later_h"])
        found.append(OfferedWay(key=key, name=row["name"], steps=way))
    return found


def _later(rest: list[RiseStep], hours: float) -> list[RiseStep]:
    """The same places with so many hours more in the fridge, or so many there first."""
    cold = next((i for i, step in enumerate(rest) if step.place == "fridge"), None)
    if cold is None:
        return [_balls_in("fridge", hours).model_copy(update={"stage": rest[0].stage}), *rest]
    return [step.model_copy(update={"hours": min(168.0, step.hours + hours)}) if i == cold else step for i, step in enumerate(rest)]
