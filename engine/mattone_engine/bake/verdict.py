"""The word a rig deserves for a style: the worse of how near the crust comes and what the style is made on and by."""

from __future__ import annotations

from typing import NamedTuple

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.styles import Style, style_of
from mattone_engine.things.capabilities import kinds
from mattone_engine.things.rig import Rig

WORDS = ("made for it", "works", "a stretch", "not here")
# Distance in colour, crumb and heat up to which each word but the last is deserved.
SCORES = (0.7, 1.9, 5.5)
# So near a limit, as a share of it, a score may end on its other side once the bake is whole.
NEAR = 0.27
MADE, WORKS, STRETCH, NOT_HERE = range(4)

# How far outside its style's band a heat still counts as in it, and what is so much further, K.
HEAT_FREE_K, HEAT_STEP_K = 12.0, 23.0

# What hands may do beyond launch, turn and pull, as a cook calls it.
HANDLINGS = {
    "top_element": "the top element",
    "shield": "a shield",
    "move": "a move between levels",
    "hob_s": "a start on the hob",
    "par_bake_s": "a par-bake",
    "cheese_s": "its cheese late",
    "overhead": "a second deck",
}
ROLES = {"deck": "a hot deck", "tray": "an upturned tray", "bars": "bare bars over a fire"}


class Misfit(NamedTuple):
    """How far a rig is from what the style is made on, 0 to 2 as in WORDS, and what it wants in words."""

    rank: int
    why: str


def rank_of(score: float) -> int:
    """The place in WORDS of a score."""
    return next((rank for rank, limit in enumerate(SCORES) if score <= limit), NOT_HERE)


def verdict(score: float) -> str:
    """One word for how near a crust comes."""
    return WORDS[rank_of(score)]


def is_near(score: float, rank: int) -> bool:
    """Whether a score stands near the limit of this place in WORDS, on either side."""
    return 0 <= rank < NOT_HERE and abs(score - SCORES[rank]) <= NEAR * SCORES[rank]


def heat_term(heat_c: float, band: tuple[float, float]) -> float:
    """What a deck, or the air round a pan, outside the style's band counts in a score."""
    outside = max(band[0] - heat_c, heat_c - band[1]) - HEAT_FREE_K
    return (max(0.0, outside) / HEAT_STEP_K) ** 2


def heat_of(request: PlanInput, controls: Controls, deck_c: float) -> float:
    """What a style's band of heat is held against, C: the deck under a base, the true air round a pan or tray."""
    if request.pan is None:
        return deck_c
    return controls.setpoint_c + (request.hearth.dial_error_k if request.fire is None else 0.0)


def misfit(request: PlanInput) -> Misfit:
    """What carries the dough here against what this style is made on."""
    return misfit_of(style_of(request), request)


def misfit_of(known: Style, rig: Rig) -> Misfit:
    """The same of a style and a rig."""
    return max(_carrier(known, rig), _wall(known, rig), _outline(known, rig), key=lambda found: found.rank)


def handled(request: PlanInput, controls: Controls) -> Misfit:
    """What hands have to do that does not belong to the style."""
    known = style_of(request).made.by_hand
    more = next((name for name in HANDLINGS if getattr(controls, name) is not None and name not in known), "")
    return Misfit(WORKS, f"needs {HANDLINGS[more]}") if more else Misfit(MADE, "")


def _carrier(known: Style, request: Rig) -> Misfit:
    surface, pan = request.surface, request.pan
    on = pan.kind if pan is not None else surface.traits.role if surface is not None else ""
    if on in known.made.made_for:
        return Misfit(MADE, "")
    return Misfit(WORKS if on in known.made.works_on else STRETCH, f"is made for {_named(known.made.made_for)}")


def _wall(known: Style, request: Rig) -> Misfit:
    band, pan = known.made.wall_cm, request.pan
    if band is None or pan is None or band[0] <= pan.wall_mm / 10.0 <= band[1]:
        return Misfit(MADE, "")
    if pan.wall_mm / 10.0 > band[1]:
        return Misfit(WORKS, f"wants a wall of {{{band[1]:g} cm}} or less")
    return Misfit(WORKS if pan.wall_mm / 10.0 >= 0.5 * band[0] else STRETCH, f"wants a wall of {{{band[0]:g} cm}}")


def _outline(known: Style, request: Rig) -> Misfit:
    wanted, pan = known.made.outline, request.pan
    if not wanted or pan is None or pan.traits.round == (wanted == "round"):
        return Misfit(MADE, "")
    return Misfit(WORKS, f"is made in a {wanted} pan")


def _named(carriers: tuple[str, ...]) -> str:
    words = [ROLES[one] if one in ROLES else kinds().pans[one].word for one in carriers]
    return " or ".join(words)
