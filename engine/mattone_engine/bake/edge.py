"""The fried edge of a pan: where dough lies against its wall it bakes on metal, as its base does."""

from __future__ import annotations

import numpy as np

from mattone_engine.heat.outcome import series
from mattone_engine.heat.run import Bake
from mattone_engine.things import SimulateInput
from mattone_engine.things.rig import LEAST_WALL_MM


def has_fried_edge(spec: SimulateInput) -> bool:
    """Whether dough rises against the wall of a pan in an oven."""
    return spec.pan is not None and spec.dough.shape == "pan" and spec.pan.wall_mm >= LEAST_WALL_MM and not spec.hearth.is_flame


def edge_l(spec: SimulateInput, t_s: np.ndarray, base_l: np.ndarray) -> np.ndarray:
    """L* of the edge against the wall at the times t_s (n,), where the base has base_l (n,); empty where there is none.

    A wall is the pan's floor stood up: oiled dough on thin metal that air and liner heat from its
    other side. So it is baked as the floor of the same pan on an open rack: no deck and no burner
    reach it, and no topping.
    """
    if not has_fried_edge(spec):
        return np.zeros(0)
    if not spec.has_deck and spec.starts_s == 0.0:
        return base_l
    events = tuple(event for event in spec.events if not event.do.startswith("hob"))
    bake = Bake(spec.model_copy(update={"surface": None, "events": events}), quick=True, balanced=False)
    bake.advance_to(float(t_s[-1]))
    alone = series(bake.trace(balanced=False))
    return np.asarray(np.interp(t_s, alone.t_s, alone.base_l))
