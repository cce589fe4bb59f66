"""Which cautions a plan carries, and where they stand."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.things import deck_of
from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import kinds, materials
from mattone_engine.things.fit import WALLS

HEAVY_KG = 8.0
# The face of a deck when its size is not known: what a home oven takes.
USUAL_DECK_M2 = 0.13


class Caution(StrictModel):
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


def deck_kg(kind: str, thickness_mm: float, area_cm2: float | None = None) -> float:
    """Mass of a deck of this size; None: as wide as a home oven takes."""
    return materials()[kind].density * thickness_mm * 1e-3 * (USUAL_DECK_M2 if area_cm2 is None else area_cm2 * 1e-4)


def rack_kg(request: PlanInput, controls: Controls) -> float:
    """What lies on the rack that carries most, kg: a deck with the pan and the dough on it."""
    deck, pan, over = deck_of(request.surface), request.pan, controls.overhead
    low = deck_kg(deck.kind, deck.thickness_mm, deck.area_cm2) if deck is not None else 0.0
    if pan is not None:
        low += WALLS * deck_kg(pan.kind, pan.thickness_mm, request.dough.area_cm2)
    low += 1e-3 * (request.dough.mass_g + request.toppings.mass_g)
    spare = next((s for s in request.spares if over is not None and (s.kind, s.thickness_mm) == (over.kind, over.thickness_mm)), None)
    high = deck_kg(over.kind, over.thickness_mm, spare.area_cm2 if spare is not None else None) if over is not None else 0.0
    return max(low, high)


def cautions(request: PlanInput, controls: Controls) -> list[Caution]:
    """The cautions of this plan, in the order of its steps."""
    hearth, fire = request.hearth.traits, request.fire
    found = [_caution(hearth.caution)] if fire is not None else []
    decks = [(kinds().surfaces[s.kind], s) for s in (request.surface, controls.overhead) if s is not None]
    heavy = rack_kg(request, controls)
    if heavy >= HEAVY_KG and not (fire is not None and not fire.hooded):
        found.append(_caution("weight", weight_kg=f"{heavy:.0f}"))
    # The floor that a flame oven comes with stays where it is.
    if any(traits.brittle for traits, _ in decks) and not (fire is not None and not fire.hooded):
        found.append(_caution("thermal_shock"))
    if fire is None:
        found += [_caution(hearth.caution)] if hearth.caution else []
        found.append(_caution("vents"))
    if controls.top_element is not None:
        found.append(_caution("top_element"))
    if controls.hob_s is not None:
        found.append(_caution("hob"))
    if request.parchment:
        found.append(_caution("parchment", limit_c=f"{{{request.parchment_limit_c:g} C}}"))
    if request.coating_limit_c is not None and request.pan is not None:
        found.append(_caution("coating", limit_c=f"{{{request.coating_limit_c:g} C}}"))
    if request.style == "gluten_free_round" and request.own_style is None:
        found.append(_caution("gluten"))
    if request.pan is not None:
        found.append(_caution("hot_tray" if controls.hot_pan else "oil_in_tray"))
    if fire is not None and fire.hooded:
        found.append(_caution("grease"))
    if controls.par_bake_s is not None or controls.flip_s is not None or controls.cheese_s is not None:
        found.append(_caution("hot_topping"))
    if controls.shield is not None:
        found.append(_caution("shield"))
    found.append(_caution("hot_surface"))
    return found
