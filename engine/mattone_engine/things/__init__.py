"""The nouns of a bake: frozen values with physical bounds, and the catalogue of materials."""

from mattone_engine.things.bake import Event, Overhead, SimulateInput, Target
from mattone_engine.things.dough import Dough, Toppings
from mattone_engine.things.hearth import Hearth, HearthLimits
from mattone_engine.things.style import Style
from mattone_engine.things.support import Pan, Surface, deck_of

__all__ = ["Dough", "Event", "Hearth", "HearthLimits", "Overhead", "Pan", "SimulateInput", "Style", "Surface", "Target", "Toppings", "deck_of"]
