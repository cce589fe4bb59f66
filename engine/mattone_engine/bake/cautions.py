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


def deck_kg(kind: str, thickness_mm: float) -> float:
    """Mass of a deck as wide as a home oven takes."""
    return materials()[kind].density * thickness_mm * 1e-3 * USUAL_DECK_M2


def cautions(ask: PlanInput, controls: Controls) -> list[Caution]:
    """The cautions of this plan, in the order of its steps."""
    found = (
        [_caution({"flame_oven": "flame_outdoors", "gas_grill": "gas_outdoors", "charcoal_grill": "charcoal_outdoors"}[ask.hearth.kind])] if ask.fire else []
    )
    decks = [(s.kind, s.thickness_mm) for s in (ask.surface, controls.overhead) if s is not None]
    heavy = sum(deck_kg(kind, mm) for kind, mm in decks if kind in ("steel", "stone", "firebrick"))
    if heavy >= HEAVY_KG and (controls.overhead is not None or (ask.surface is not None and ask.surface.kind == "steel")):
        found.append(_caution("weight", weight_kg=f"{heavy:.0f}"))
    if any(kind in ("stone", "firebrick") for kind, _ in decks) and ask.hearth.kind != "flame_oven":
        found.append(_caution("thermal_shock"))
    if ask.hearth.kind == "gas_oven":
        found.append(_caution("gas_oven"))
    if ask.fire is None:
        found.append(_caution("vents"))
    if controls.top_element is not None:
        found.append(_caution("top_element"))
    if controls.hob_s is not None:
        found.append(_caution("hob"))
    if ask.parchment:
        found.append(_caution("parchment"))
    if ask.coating_limit_c is not None and ask.pan is not None:
        found.append(_caution("coating", limit_c=f"{{{ask.coating_limit_c:g} C}}"))
    if ask.style == "gluten_free_round" and ask.own_style is None:
        found.append(_caution("gluten"))
    if ask.pan is not None:
        found.append(_caution("oil_in_tray"))
    if ask.fire is not None and ask.hearth.kind != "flame_oven":
        found.append(_caution("grease"))
    if controls.par_bake_s is not None or controls.flip_s is not None or controls.cheese_s is not None:
        found.append(_caution("hot_topping"))
    if controls.shield is not None:
        found.append(_caution("shield"))
    found.append(_caution("hot_surface"))
    return found
