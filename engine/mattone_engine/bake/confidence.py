"""What class of bake this is, and whether the model knows that class well."""

from __future__ import annotations

from mattone_engine.things import SimulateInput

# What the model gets wrong is so much more where its class is less known: as ln(time).
LESS_KNOWN = 1.5


def rig_class(spec: SimulateInput) -> str:
    """By what decides how well a bake can be told: moved air, full element, fire, or what carries the dough."""
    if spec.hearth.is_flame:
        return "grill" if spec.hearth.traits.fire is not None and spec.hearth.traits.fire.hooded else "flame oven"
    if spec.hearth.fan or any(e.do == "fan_on" for e in spec.events):
        return "fan"
    if any(e.do == "top_element_on" for e in spec.events):
        return "full top element"
    if spec.pan is not None:
        return "pan or tray on a deck" if spec.has_deck else "pan or tray on the rack"
    return "deck"


LOW = {
    "fan": "low confidence: fans differ",
    "full top element": "low confidence: top elements differ",
    "grill": "low confidence: hoods differ",
}


def low_confidence(spec: SimulateInput) -> str:
    """Why the window is wider here; empty where the class is known as well as any."""
    return LOW.get(rig_class(spec), "")
