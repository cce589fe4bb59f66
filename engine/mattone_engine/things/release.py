"""Release agents: what lies under a base so that it lets go of its peel, tray or pan."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal

from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import OneOf


class ReleaseAgent(StrictModel):
    """One release agent as data; see release.toml. g_cm2: mass on each cm2 of a base."""

    name: str
    words: str
    g_cm2: float
    on: list[Literal["peel", "tray"]]
    wheat: bool
    note: str


@cache
def release_agents() -> dict[str, ReleaseAgent]:
    """All release agents by key, in the order they are offered."""
    rows = tomllib.loads(files("mattone_engine.things").joinpath("release.toml").read_text(encoding="utf-8"))
    return {key: ReleaseAgent.model_validate(row) for key, row in rows.items()}


ReleaseKey = Annotated[str, OneOf(release_agents)]
# What stands in for a wheat agent under a base without gluten.
WITHOUT_GLUTEN = "rice_flour"


def safe_agent(key: str, *, gluten: bool) -> str:
    """The agent, or one without gluten where the base has none."""
    return key if gluten or not release_agents()[key].wheat else WITHOUT_GLUTEN
