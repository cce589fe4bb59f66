"""Deck and hearth at launch."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from mattone_engine.heat import column as k
from mattone_engine.heat.environment import cavity_parameters, dome_of, flame_floor_c, steady_cavity
from mattone_engine.heat.parameters import Values
from mattone_engine.heat.preheat import Preheat, deck_cells, preheat
from mattone_engine.heat.variation import as_believed, varied
from mattone_engine.things import Event, Hearth, Overhead, Pan, SimulateInput, Surface


def heat_up(spec: SimulateInput, hearth: Hearth | None = None, values: Values | None = None) -> Preheat:
    """The deck and hearth at launch, the hearth as it is believed to be where none is given: by a reading where one is given, else by the preheat model."""
    used = hearth if hearth is not None else varied(spec.hearth, as_believed(spec.knowledge))
    if used.is_flame:
        return flame_heat(spec, used)
    pan = spec.pan if spec.pan is not None and spec.pan.preheated else None
    surface = spec.deck
    unread = surface.model_copy(update={"deck_c": None}) if surface is not None and surface.deck_c is not None else surface
    # What is done before launch decides; a burner elsewhere does not.
    early = tuple(e for e in spec.events if e.at_s < 0 and not e.do.startswith("hob"))
    if values is None:
        heated = preheated(used, unread, spec.preheat_min, early, pan, spec.overhead)
    else:
        heated = preheat(used, unread, spec.preheat_min, events=early, pan=pan, overhead=spec.overhead, values=values)
    if surface is None or surface.deck_c is None:
        return heated
    return with_reading(heated, surface)


@lru_cache(maxsize=1024)
def preheated(hearth: Hearth, surface: Surface | None, minutes: float, early: tuple[Event, ...], pan: Pan | None, overhead: Overhead | None) -> Preheat:
    """One preheat, remembered: a kitchen asks for the same one for every style. Its arrays are not to be written."""
    heated = preheat(hearth, surface, minutes, events=early, pan=pan, overhead=overhead)
    for values in (heated.t_s, heated.deck_c, heated.under_c, heated.air_c, heated.profile_c, heated.cavity, heated.pan_trace_c):
        if values is not None:
            values.flags.writeable = False
    return heated


def flame_heat(spec: SimulateInput, hearth: Hearth) -> Preheat:
    """A flame oven or grill as its floor, dome and air temperatures describe it."""
    floor_c = flame_floor_c(hearth)
    deck_c = floor_c
    cells = 0
    if spec.has_deck and spec.surface is not None:
        deck_c = spec.surface.deck_c if spec.surface.deck_c is not None else floor_c
        cells = deck_cells(spec.surface)[0].size
    cavity = steady_cavity(hearth, cavity_parameters(hearth, 0.0))
    dome_c = dome_of(hearth)
    cavity[k.AIR] = hearth.air_c if hearth.air_c is not None else 0.5 * (floor_c + dome_c)
    row = np.array([deck_c])
    pan_c = deck_c if spec.pan is not None and spec.pan.preheated else None
    return Preheat(np.zeros(1), row, row, np.array([cavity[k.AIR]]), np.full(cells, deck_c), cavity, pan_c)


def with_reading(heated: Preheat, surface: Surface) -> Preheat:
    """The same deck shifted so that its face shows the reading."""
    assert surface.deck_c is not None
    return Preheat(
        heated.t_s, heated.deck_c, heated.under_c, heated.air_c,
        heated.profile_c + (surface.deck_c - heated.deck_c[-1]), heated.cavity, heated.pan_c,
    )  # fmt: skip
