"""What fits where, and what is too heavy for a rack."""

from __future__ import annotations

import math
from dataclasses import dataclass

from mattone_engine.things.materials import materials

# Inside width and depth of a hearth's racks, cm, where nothing else is known.
RACK_CM = {
    "electric_oven": (46.0, 40.0),
    "gas_oven": (46.0, 40.0),
    "countertop_oven": (36.0, 32.0),
    "gas_grill": (60.0, 44.0),
    "charcoal_grill": (50.0, 50.0),
}
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
    walled = thing.kind not in ("stone", "steel", "firebrick", "upturned_tray", "thin_tray", "perforated")
    return plate * (1.5 if walled else 1.0)


@dataclass(frozen=True)
class Room:
    """A hearth as far as fitting goes; what is None is as usual for its kind."""

    kind: str
    name: str
    width_cm: float | None = None
    depth_cm: float | None = None
    rack_kg: float | None = None


def fit_note(thing: Extent, room: Room) -> str:
    """Why this does not go into that hearth, or what to mind; empty when it simply fits."""
    usual = RACK_CM.get(room.kind)
    if usual is None:
        return ""
    rack = (room.width_cm or usual[0], room.depth_cm or usual[1])
    long, short = max(thing.width_cm, thing.depth_cm), min(thing.width_cm, thing.depth_cm)
    if long > max(rack) or short > min(rack):
        return f"Does not fit the {room.name}: it takes {{{max(rack):g} cm}} by {{{min(rack):g} cm}}."
    heavy = mass_kg(thing)
    if room.rack_kg is not None and heavy > room.rack_kg:
        return f"About {heavy:.0f} kg on a rack of the {room.name} that is rated for {room.rack_kg:g} kg: too heavy."
    if room.rack_kg is None and heavy > RACK_KG:
        return f"About {heavy:.0f} kg: more than most racks of the {room.name} are rated for; check the manual."
    if long > max(rack) - AIR_CM and short > min(rack) - AIR_CM:
        return f"Fills the rack of the {room.name}: leave {{{AIR_CM:g} cm}} of air around it."
    return ""


def coating_note(limit_c: float, hearth_kind: str, hottest_c: float, hearth_name: str) -> str:
    """Where a pan's coating forbids heat that this hearth could give; empty when it never does."""
    if hearth_kind == "hob":
        return f"Coated: never empty on the {hearth_name}; no hob start."
    if hearth_kind in ("flame_oven", "gas_grill", "charcoal_grill"):
        return f"Its coating stands {{{limit_c:g} C}}: not for the {hearth_name}."
    if hottest_c > limit_c:
        return f"Its coating stands {{{limit_c:g} C}}: the {hearth_name} goes to {{{hottest_c:g} C}}; plans keep below."
    return ""
