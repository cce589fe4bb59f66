"""The fried edge of a pan: where dough lies against its wall it bakes on metal, as its base does."""

from __future__ import annotations

import math

import numpy as np

from mattone_engine.heat.layout import baked_mm
from mattone_engine.heat.outcome import series
from mattone_engine.heat.parameters import known
from mattone_engine.heat.run import Bake
from mattone_engine.things import SimulateInput
from mattone_engine.things.capabilities import materials
from mattone_engine.things.rig import LEAST_WALL_MM

# What a wall takes from still air and liner on its other side, W/m2K.
OUTSIDE = 15.0


def has_fried_edge(spec: SimulateInput) -> bool:
    """Whether dough rises against the wall of a pan in an oven."""
    return spec.pan is not None and spec.dough.shape == "pan" and spec.pan.wall_mm >= LEAST_WALL_MM and not spec.hearth.is_flame


def as_the_floor(spec: SimulateInput) -> float:
    """Up to what share the wall is as hot as the pan's floor, over the dough's height; the rest is as the oven heats it.

    A straight fin with its root at the floor (Gardner, 1945): the floor's share dies away over
    sqrt(k t / h), and this is its mean from the floor to where the dough ends.
    """
    assert spec.pan is not None
    metal = materials()[spec.pan.kind]
    reach_m = math.sqrt(metal.conductivity * spec.pan.thickness_mm * 1e-3 / (known(None)["oiled_dry"] + OUTSIDE))
    height_m = 1e-3 * min(spec.pan.wall_mm, baked_mm(spec.dough))
    return reach_m / height_m * -math.expm1(-height_m / reach_m)


def edge_l(spec: SimulateInput, t_s: np.ndarray, base_l: np.ndarray) -> np.ndarray:
    """L* of the edge against the wall at the times t_s (n,), where the base has base_l (n,); empty where there is none.

    A wall by itself is the pan's floor stood up: oiled dough on thin metal that air and liner heat
    from its other side, as the floor of the same pan on an open rack. What a hot deck or a burner
    does to the floor climbs it as far as its metal conducts.
    """
    if not has_fried_edge(spec):
        return np.zeros(0)
    if not spec.has_deck and spec.starts_s == 0.0:
        return base_l
    events = tuple(event for event in spec.events if not event.do.startswith("hob"))
    bake = Bake(spec.model_copy(update={"surface": None, "events": events}), quick=True, balanced=False)
    bake.advance_to(float(t_s[-1]))
    alone = series(bake.trace(balanced=False))
    share = as_the_floor(spec)
    return np.asarray(share * base_l + (1.0 - share) * np.interp(t_s, alone.t_s, alone.base_l))
