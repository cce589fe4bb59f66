"""What fits where, and what is too heavy for a rack."""

from __future__ import annotations

import math
from dataclasses import dataclass

from mattone_engine.things.materials import materials

# Inside width and depth of a hearth's racks, cm, where nothing else is known.
RACK_CM = {"electric_oven": (46.0, 40.0), "gas_oven": (46.0, 40.0), "countertop_oven": (36.0, 32.0)}
# What a wire rack is usually rated for, kg.
RACK_KG = 15.0
# A deck leaves this much air around it, cm, or the oven's heat cannot rise past it.
AIR_CM = 2.0
ROUND_KINDS = ("cast_iron",)


@dataclass(frozen=True)
class Extent:
    """A surface or pan as far as fitting goes: kind, thickness in mm, size in cm."""

    kind: str
    thickness_mm: float
    width_cm: float
    depth_cm: float

    @property
    def area_cm2(self) -> float:
        """Cast-iron pans are round; the others have corners."""
        return self.width_cm * self.depth_cm * (math.pi / 4.0 if self.kind in ROUND_KINDS else 1.0)


def mass_kg(thing: Extent) -> float:
    """Mass of the plate; a pan's walls add about half of its floor."""
    material = materials()[thing.kind]
    plate = material.density * thing.thickness_mm * 1e-3 * thing.area_cm2 * 1e-4
    walled = thing.kind not in ("stone", "steel", "firebrick", "upturned_tray", "thin_tray")
    return plate * (1.5 if walled else 1.0)


def fit_note(thing: Extent, hearth_kind: str, hearth_name: str) -> str:
    """Why this does not go into that hearth, or what to mind; empty when it simply fits."""
    rack = RACK_CM.get(hearth_kind)
    if rack is None:
        return ""
    long, short = max(thing.width_cm, thing.depth_cm), min(thing.width_cm, thing.depth_cm)
    if long > max(rack) or short > min(rack):
        return f"Does not fit the {hearth_name}: its racks take {{{max(rack):g} cm}} by {{{min(rack):g} cm}}."
    heavy = mass_kg(thing)
    if heavy > RACK_KG:
        return f"About {heavy:.0f} kg: more than most racks of the {hearth_name} are rated for; check the manual."
    if long > max(rack) - AIR_CM and short > min(rack) - AIR_CM:
        return f"Fills the rack of the {hearth_name}: leave {{{AIR_CM:g} cm}} of air around it."
    return ""
