"""Heating an empty deck: face, underside and air against time."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mattone_engine.heat import column as k
from mattone_engine.heat.environment import AMBIENT_C, cavity_parameters, cold_cavity, control_row, enclosed_emissivity
from mattone_engine.things import Event, Hearth, Surface
from mattone_engine.things.materials import materials


@dataclass(frozen=True)
class Preheat:
    """t_s, deck_c, under_c, air_c: shape (n,); profile_c bottom to top; cavity at the end."""

    t_s: np.ndarray
    deck_c: np.ndarray
    under_c: np.ndarray
    air_c: np.ndarray
    profile_c: np.ndarray
    cavity: np.ndarray


def deck_cells(surface: Surface) -> tuple[np.ndarray, np.ndarray]:
    """Thickness (m) of the deck's cells, bottom to top, and their half resistances (m2K/W).

    Metal is nearly isothermal and takes three cells; stone is graded to 0.3 mm at the face.
    """
    material = materials()[surface.kind]
    total = surface.thickness_mm / 1000.0
    face = min(3e-4, total / 4.0)
    count = 3 if material.conductivity > 10.0 else 8
    ratio = _geometric_ratio(face, total, count)
    widths = face * ratio ** np.arange(count)
    widths *= total / widths.sum()
    widths = widths[::-1].copy()
    return widths, 0.5 * widths / material.conductivity


def _geometric_ratio(first: float, total: float, count: int) -> float:
    """Ratio r with first (1 + r + ... r^(count-1)) = total, by bisection."""
    low, high = 1.0, 30.0
    for _ in range(60):
        mid = 0.5 * (low + high)
        length = first * (mid**count - 1.0) / (mid - 1.0) if mid > 1.0 + 1e-12 else first * count
        low, high = (mid, high) if length < total else (low, mid)
    return 0.5 * (low + high)


def preheat(hearth: Hearth, surface: Surface, minutes: float, *, events: tuple[Event, ...] = (), step_s: float = 10.0) -> Preheat:
    """Heat `surface` on the hearth's level from room temperature for `minutes`.

    Events before launch (negative at_s: top element, fan, setpoint) are obeyed.
    """
    material = materials()[surface.kind]
    widths, half = deck_cells(surface)
    count = max(1, int(np.ceil(minutes * 60.0 / step_s)))
    times = np.linspace(0.0, minutes * 60.0, count + 1)
    base = control_row(hearth, hearth.level)
    controls = np.repeat(base[None, :], count, axis=0)
    for event in sorted((e for e in events if e.at_s < 0), key=lambda e: e.at_s):
        since = times[:-1] >= minutes * 60.0 + event.at_s - 1e-9
        if event.do in ("top_element_on", "top_element_off"):
            controls[since, k.U_FULL] = float(event.do == "top_element_on")
        elif event.do in ("fan_on", "fan_off"):
            controls[since, k.U_FAN] = float(event.do == "fan_on")
        elif event.do == "setpoint" and event.setpoint_c is not None:
            controls[since, k.U_SETPOINT] = event.setpoint_c + hearth.dial_error_k
    cavity = cold_cavity()
    p = cavity_parameters(hearth, 0.0)
    profile = np.full(widths.size, AMBIENT_C)
    out = np.zeros((count + 1, 4))
    out[0] = AMBIENT_C
    k.run_preheat(times, controls, cavity, p, profile, widths * material.density * material.heat, half, enclosed_emissivity(material.emissivity), out)
    return Preheat(times, out[:, 0], out[:, 1], out[:, 2], profile, cavity)


def empty_preheat(hearth: Hearth, minutes: float, *, events: tuple[Event, ...] = ()) -> Preheat:
    """The hearth alone, with nothing in it but a rack: for trays that go in cold."""
    rack = Surface(kind="steel", thickness_mm=0.5)
    return preheat(hearth, rack, minutes, events=events)
