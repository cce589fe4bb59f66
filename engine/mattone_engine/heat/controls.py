"""How the hearth is set from one moment of a bake to the next."""

from __future__ import annotations

import numpy as np

from mattone_engine.heat import column as k
from mattone_engine.heat.environment import DOOR_OPEN_S, bottom_view, build_of, control_row, layer_k, top_view
from mattone_engine.heat.parameters import Values
from mattone_engine.things import Event, Hearth, SimulateInput


def door_s(event: Event) -> float:
    """How long the door stands open for what the cook does."""
    if event.do in ("door", "add_topping", "add_cheese"):
        return event.seconds
    return 6.0 if event.do in ("turn", "move", "shield_on", "shield_off", "hob_on", "hob_off", "flip", "lift", "paper_out") else 0.0


def control_table(spec: SimulateInput, hearth: Hearth, starts: np.ndarray, values: Values | None = None) -> np.ndarray:
    """Controls of the intervals beginning at `starts`, shape (n, CONTROL_SIZE)."""
    level = spec.hearth.level
    base = control_row(hearth, level, values)
    table = np.repeat(base[None, :], starts.size, axis=0)
    table[starts < DOOR_OPEN_S - 1e-9, k.U_DOOR] = 1.0
    for event in sorted(spec.events, key=lambda e: e.at_s):
        since = starts >= event.at_s - 1e-9
        if event.do in ("top_element_on", "top_element_off"):
            table[since, k.U_FULL] = float(event.do == "top_element_on")
        elif event.do in ("fan_on", "fan_off"):
            table[since, k.U_FAN] = float(event.do == "fan_on")
        elif event.do in ("shield_on", "shield_off"):
            table[since, k.U_SHIELD] = 0.15 if event.do == "shield_on" else 1.0
        elif event.do == "setpoint" and event.setpoint_c is not None:
            table[since, k.U_SETPOINT] = hearth.really_c(event.setpoint_c)
        elif event.do == "move" and event.level is not None:
            table[since, k.U_LAYER_K] = layer_k(event.level, hearth.levels, build_of(hearth), values)
            table[since, k.U_VIEW_TOP] = top_view(event.level, hearth.levels, build_of(hearth))
            table[since, k.U_VIEW_BOTTOM] = bottom_view(event.level, hearth.levels, build_of(hearth), values)
        elif event.do == "turn":
            table[since, k.U_SECTOR] *= -1.0
        if door_s(event) > 0.0:
            table[since & (starts < event.at_s + door_s(event) - 1e-9), k.U_DOOR] = 1.0
    return table
