"""The methods of baking: which one a set of controls belongs to, and which a rig allows."""

from __future__ import annotations

from mattone_engine.bake.controls import Controls, Span, goes_down
from mattone_engine.bake.limits import Limits
from mattone_engine.bake.plan_input import PlanInput

WITH_TOP_ELEMENT = " + top element"
# High first, then down: with a deck on each of two levels.
DOWN = "down onto a second deck"
LEAST_LEVELS_DOWN = 4


def method_of(request: PlanInput, controls: Controls) -> str:
    """The method these controls belong to on this rig; what needs most handling names it."""
    c = controls
    if request.fire is not None:
        if not request.fire.hooded:
            return "flame oven"
        if request.on_grate:
            return "direct grate"
        return "grill with deck" if request.has_deck else "pan on grate"
    if c.par_bake_s is not None:
        return "par-bake"
    if c.hob_s is not None:
        return "hob start"
    if c.overhead is not None:
        return DOWN if goes_down(c) else "two decks"
    if c.shield is not None:
        return "shield"
    if c.move is not None:
        return "moved between levels"
    glow = WITH_TOP_ELEMENT if c.top_element is not None else ""
    if c.hot_pan:
        return "preheated tray" + glow
    if request.pan is not None:
        return ("pan on deck" if request.has_deck else "pan on rack") + glow
    if request.surface is not None and request.surface.traits.role == "tray":
        return "upturned tray" + glow
    place = c.level / request.hearth.levels
    if glow:
        return ("high deck" if place > 0.5 else "low deck") + glow
    return "low deck" if place <= 0.4 else "middle deck" if place <= 0.7 else "high deck"


def may_go_down(request: PlanInput) -> bool:
    """Whether a pizza could begin on a high deck and go down onto another."""
    decks = request.has_deck and request.pan is None and any(spare.traits.ceiling for spare in request.spares)
    return decks and request.fire is None and request.hearth.levels >= LEAST_LEVELS_DOWN


def possible_methods(request: PlanInput, limits: Limits) -> list[str]:
    """The methods this rig and its cautions allow, plain ones first."""
    if request.fire is not None:
        return [method_of(request, Controls(setpoint_c=limits.least_c, level=1, preheat_min=20.0))]
    levels = request.hearth.levels
    places = [Controls(setpoint_c=limits.least_c, level=level, preheat_min=20.0) for level in range(1, levels + 1)]
    found = list(dict.fromkeys(method_of(request, c) for c in places))
    if limits.may_use_top_element:
        lit = Span(on_s=0.0, off_s=60.0)
        found += dict.fromkeys(method_of(request, c.model_copy(update={"top_element": lit})) for c in places)
    if request.spares and levels >= 2:
        found.append("two decks")
    if may_go_down(request):
        found.append(DOWN)
    if request.may_heat_empty:
        found.append("preheated tray")
    if limits.may_hob:
        found.append("hob start")
    if request.toppings.mass_g > 0:
        found.append("par-bake")
    if levels >= 2:
        found += [*(["shield"] if request.has_sheet else []), *(["moved between levels"] if request.may_move else [])]
    return found
