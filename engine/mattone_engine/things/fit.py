"""What fits where, and what is too heavy for a rack."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum

from mattone_engine.things.capabilities import kinds, materials
from mattone_engine.things.dough import LARGEST_CM2

# What a wire rack is usually rated for, kg.
RACK_KG = 15.0
# A deck leaves this much air around it, cm, or the oven's heat cannot rise past it.
AIR_CM = 2.0
# A pan's walls weigh about half of its floor.
WALLS = 1.5


@dataclass(frozen=True)
class Extent:
    """A surface or pan as far as fitting goes: kind, thickness in mm, size in cm. is_round: without corners; None: as usual for its kind."""

    kind: str
    thickness_mm: float
    width_cm: float
    depth_cm: float
    is_round: bool | None = None

    @property
    def has_corners(self) -> bool:
        """Whether its outline is a rectangle."""
        pan = kinds().pans.get(self.kind)
        return not (self.is_round if self.is_round is not None else pan is not None and pan.round)

    @property
    def area_cm2(self) -> float:
        """Area of its floor: of a rectangle, or of an ellipse."""
        return self.width_cm * self.depth_cm * (1.0 if self.has_corners else math.pi / 4.0)


def mass_kg(thing: Extent) -> float:
    """Mass of the plate, with a pan's walls."""
    pan = kinds().pans.get(thing.kind)
    plate = materials()[thing.kind].density * thing.thickness_mm * 1e-3 * thing.area_cm2 * 1e-4
    return plate * (WALLS if pan is not None and pan.walled else 1.0)


@dataclass(frozen=True)
class Room:
    """A hearth as far as fitting goes; what is None is as usual for its kind."""

    kind: str
    name: str
    width_cm: float | None = None
    depth_cm: float | None = None
    rack_kg: float | None = None


class Fits(Enum):
    """How a thing goes into a hearth."""

    WELL = "well"
    WITH_CARE = "with care"
    NOT = "not"


@dataclass(frozen=True)
class Fit:
    """How it goes in, and in words what to mind."""

    how: Fits
    text: str = ""


def fit(thing: Extent, room: Room) -> Fit:
    """Whether this goes into that hearth, and what to mind."""
    if thing.area_cm2 > LARGEST_CM2:
        return Fit(Fits.NOT, "Does not fit: no hearth takes so large a thing; was the size meant in millimetres?")
    usual = kinds().hearths[room.kind].rack_cm
    if usual is None:
        return Fit(Fits.WELL)
    rack = (room.width_cm or usual[0], room.depth_cm or usual[1])
    long, short = max(thing.width_cm, thing.depth_cm), min(thing.width_cm, thing.depth_cm)
    if room.width_cm is None and room.depth_cm is None and (long > max(rack) or short > min(rack)):
        # The size of this rack is not known, only what is usual: that refuses nothing.
        return Fit(Fits.WITH_CARE, f"Measure the rack of the {room.name} and enter its size: most take {{{max(rack):g} cm}} by {{{min(rack):g} cm}}.")
    if long > max(rack) or short > min(rack):
        return Fit(Fits.NOT, f"Does not fit the {room.name}: it takes {{{max(rack):g} cm}} by {{{min(rack):g} cm}}.")
    heavy = mass_kg(thing)
    if room.rack_kg is not None and heavy > room.rack_kg:
        return Fit(Fits.WITH_CARE, f"About {heavy:.0f} kg on a rack of the {room.name} that is rated for {room.rack_kg:g} kg: too heavy.")
    if room.rack_kg is None and heavy > RACK_KG:
        return Fit(Fits.WITH_CARE, f"About {heavy:.0f} kg: more than most racks of the {room.name} are rated for; check the manual.")
    if long > max(rack) - AIR_CM and short > min(rack) - AIR_CM:
        return Fit(Fits.WITH_CARE, f"Fills the rack of the {room.name}: leave {{{AIR_CM:g} cm}} of air around it.")
    return Fit(Fits.WELL)


def coating_note(limit_c: float, hearth_kind: str, hottest_c: float, hearth_name: str) -> str:
    """Where a pan's coating forbids heat that this hearth could give; empty when it never does."""
    heat = kinds().hearths[hearth_kind].heat
    if heat == "burner":
        return f"Coated: never empty on the {hearth_name}; no hob start."
    if heat == "fire":
        return f"Its coating stands {{{limit_c:g} C}}: not for the {hearth_name}."
    if hottest_c > limit_c:
        return f"Its coating stands {{{limit_c:g} C}}: the {hearth_name} goes to {{{hottest_c:g} C}}; plans keep below."
    return ""
