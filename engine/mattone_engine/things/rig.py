"""A rig: a hearth with what the dough stands on; and the one place that says what goes with what."""

from __future__ import annotations

from enum import Enum, IntEnum
from typing import Annotated

from pydantic import Field

from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import Fire
from mattone_engine.things.hearth import HearthLimits
from mattone_engine.things.knowledge import GENERAL, Knowledge
from mattone_engine.things.style import Style
from mattone_engine.things.support import Pan, Surface, deck_of

# Above this much water, % of flour, a stretched base runs between the bars of a grate.
FIRM_PCT = 70.0
# A coating may stand this much less than a style's coolest deck, K: a pan is cooler than a deck.
COATING_BELOW_K = 30.0


# A wall lower than this holds no dough back, mm.
LEAST_WALL_MM = 8.0


class Rig(StrictModel):
    """A hearth, and a surface or pan or both, with what is known of them.

    coating_limit_c: what the pan's coating stands. hob_kw: a burner to begin on.
    """

    hearth: HearthLimits = HearthLimits()
    surface: Surface | None = None
    pan: Pan | None = None
    coating_limit_c: Annotated[float, Field(ge=100, le=400)] | None = None
    hob_kw: Annotated[float, Field(ge=0.2, le=4)] | None = None
    knowledge: Knowledge = GENERAL

    @property
    def stable_key(self) -> str:
        """The rig by its kinds and thicknesses: what corrections learned on it hang on."""
        parts = [f"{thing.kind}-{thing.thickness_mm:g}" for thing in (self.surface, self.pan) if thing is not None]
        return "/".join([self.hearth.kind, *parts])

    @property
    def fire(self) -> Fire | None:
        """What its hearth can do without a thermostat; None for an oven."""
        return self.hearth.fire

    @property
    def has_deck(self) -> bool:
        """Whether dough or pan stands on a deck."""
        return deck_of(self.surface) is not None

    @property
    def on_grate(self) -> bool:
        """Straight on the bars: to be flipped."""
        return self.surface is not None and self.surface.bars and self.pan is None

    @property
    def may_move(self) -> bool:
        """Whether what bakes can go to another level: a pan or a tray can, a hot deck is left where it lies."""
        return self.fire is None and (self.pan is not None or (self.surface is not None and self.surface.traits.role == "tray"))

    @property
    def may_heat_empty(self) -> bool:
        """Whether its tray may heat empty: bare metal in an oven, under a base that is shaped beside it."""
        return self.fire is None and self.pan is not None and self.pan.traits.carries and self.surface is None and self.coating_limit_c is None

    @property
    def may_hob(self) -> bool:
        """A hob start: a burner, a bare metal pan with walls, the dough proofed in it."""
        return self.hob_kw is not None and self.fire is None and self.pan is not None and self.pan.traits.burner and self.coating_limit_c is None


def own_surface(hearth: HearthLimits) -> Surface | None:
    """The floor or grate that a fire comes with."""
    return Surface(kind=hearth.fire.own, thickness_mm=hearth.fire.own_mm) if hearth.fire is not None else None


class Reach(IntEnum):
    """How far a pairing goes: refused, baked when asked for by hand, offered in a plan, or on the board as well."""

    REFUSED = 0
    ASKED = 1
    OFFERED = 2
    BOARD = 3


class Verdict(Enum):
    """What is said of a style on a rig, or of things together: how far it goes, and why not further."""

    GOES = (Reach.BOARD, "")
    WANTS_A_GRILL = (Reach.OFFERED, "It is made for a fire below and a hood above.")
    RUNS_BETWEEN_BARS = (Reach.OFFERED, "So soft a base runs between bare bars; put a deck on them.")
    COATING_TOO_WEAK = (Reach.OFFERED, "The pan's coating stands less heat than this style wants.")
    WANTS_WALLS = (Reach.ASKED, "A dough that rises in its pan wants walls; this tray has none.")
    WANTS_A_FLAT_PLACE = (Reach.ASKED, "A base shaped by hand lies on a deck or on a flat tray.")
    TAKES_NO_PAN = (Reach.ASKED, "Nothing but the pizza goes into this hearth.")
    NOT_OVER_FIRE = (Reach.ASKED, "It does not go over a fire: only iron without a coating does. It needs an oven.")
    NOT_ON_A_DECK = (Reach.ASKED, "These two do not stand on each other.")
    FIRE_TOO_LOW = (Reach.REFUSED, "This fire does not get hot enough to bake.")
    TOO_LARGE = (Reach.REFUSED, "It is larger than what goes into this hearth.")
    NEEDS_A_PAN = (Reach.REFUSED, "It is baked in a pan; give one.")
    NOTHING_UNDER_IT = (Reach.REFUSED, "Choose what the dough stands on: a surface, a tray, or a pan.")
    ONE_OF_THE_TWO = (Reach.REFUSED, "A shaped base lies on the surface itself or on a tray; choose one of the two.")

    @property
    def reach(self) -> Reach:
        """How far the pairing goes."""
        return self.value[0]

    @property
    def text(self) -> str:
        """Why not further; empty where it goes all the way."""
        return self.value[1]


def stands(hearth: HearthLimits, surface: Surface | None, pan: Pan | None, *, coated: bool = False) -> Verdict:
    """Whether these things go into this hearth, on each other; neither of both means a fire's own floor or grate."""
    takes = hearth.traits.takes
    if pan is not None and surface is not None and not (surface.traits.under_pans and pan.traits.on_deck and "pans" in takes):
        return Verdict.NOT_ON_A_DECK
    if surface is not None and ("decks" not in takes or (hearth.fire is not None and not surface.traits.over_fire)):
        return Verdict.NOT_OVER_FIRE
    if pan is not None and "pans" not in takes:
        if "iron" not in takes:
            return Verdict.TAKES_NO_PAN
        if not pan.traits.over_fire or coated:
            return Verdict.NOT_OVER_FIRE
    return Verdict.GOES


def chosen(style: Style, surface: Surface | None, pan: Pan | None) -> Verdict:
    """Whether a choice of things says what the dough lies on: one for a shaped base, a pan with or without a deck under it."""
    if surface is None and pan is None:
        return Verdict.NOTHING_UNDER_IT
    return Verdict.ONE_OF_THE_TWO if surface is not None and pan is not None and style.shape != "pan" else Verdict.GOES


def takes_second_deck(style: Style, hearth: HearthLimits) -> bool:
    """Whether a deck may hang above as a ceiling: over a shaped base, in an oven with racks."""
    return hearth.fire is None and style.shape != "pan"


def allowed(style: Style, rig: Rig, area_cm2: float | None = None) -> Verdict:
    """Whether this style is baked on this rig: a pan style in a pan with walls, a shaped base on a deck or a flat tray.

    A grilled pizza wants a grill, and a grill's bare grate a base that is stretched by hand. area_cm2:
    of one piece, where it is not the style's own.
    """
    fire, pan = rig.fire, rig.pan
    if fire is not None and fire.held_c(rig.hearth.max_setpoint_c, fire.dome_high_k) < fire.lowest_c:
        return Verdict.FIRE_TOO_LOW
    if style.shape == "pan" and pan is None:
        return Verdict.NEEDS_A_PAN
    if (area_cm2 if area_cm2 is not None else style.area_cm2) > rig.hearth.largest_cm2:
        return Verdict.TOO_LARGE
    if style.family == "grill" and not (fire is not None and fire.hooded):
        return Verdict.WANTS_A_GRILL if pan is None or pan.traits.carries else Verdict.WANTS_A_FLAT_PLACE
    if pan is not None:
        if style.shape == "pan" and (not pan.traits.proofs or pan.wall_mm < LEAST_WALL_MM):
            return Verdict.WANTS_WALLS
        if style.shape == "pan" and not rig.hearth.traits.takes:
            return Verdict.TAKES_NO_PAN
        if style.shape != "pan" and not (pan.traits.carries and rig.surface is None and fire is None):
            return Verdict.WANTS_A_FLAT_PLACE
        if rig.coating_limit_c is not None and rig.coating_limit_c < (fire.lowest_c if fire is not None else style.deck_c[0] - COATING_BELOW_K):
            return Verdict.COATING_TOO_WEAK
    if rig.on_grate and not (style.shape == "hand" and style.family in ("grill", "round") and style.hydration_pct <= FIRM_PCT):
        return Verdict.RUNS_BETWEEN_BARS
    return Verdict.GOES
