"""Which cautions a plan carries, and where they stand."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files

from mattone_engine.bake.plan_input import Controls, PlanInput
from mattone_engine.things.base import Thing
from mattone_engine.things.materials import materials

HEAVY_KG = 8.0
# The face of a deck when its size is not known: what a home oven takes.
USUAL_DECK_M2 = 0.13


class Caution(Thing):
    """A short warning at a card step and at a part of the sentence."""

    key: str
    step: str
    part: str
    text: str


@cache
def _texts() -> dict[str, dict[str, str]]:
    return tomllib.loads(files("mattone_engine.bake").joinpath("cautions.toml").read_text(encoding="utf-8"))


def _caution(key: str, **values: str) -> Caution:
    row = _texts()[key]
    text = row["text"]
    for name, value in values.items():
        text = text.replace("{" + name + "}", value)
    return Caution(key=key, step=row["step"], part=row["part"], text=text)


def cautions(ask: PlanInput, controls: Controls) -> list[Caution]:
    """The cautions of this plan, in the order of its steps."""
    found = []
    surface = ask.surface
    if surface is not None and surface.kind == "steel":
        kg = materials()["steel"].density * surface.thickness_mm * 1e-3 * USUAL_DECK_M2
        if kg >= HEAVY_KG:
            found.append(_caution("weight", weight_kg=f"{kg:.0f}"))
    if surface is not None and surface.kind in ("stone", "firebrick"):
        found.append(_caution("thermal_shock"))
    found.append(_caution("vents"))
    if controls.top_element is not None:
        found.append(_caution("top_element"))
    if ask.parchment:
        found.append(_caution("parchment"))
    if ask.style == "gluten_free_round":
        found.append(_caution("gluten"))
    if ask.pan is not None:
        found.append(_caution("oil_in_tray"))
    found.append(_caution("hot_surface"))
    return found
