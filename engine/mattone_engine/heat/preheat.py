"""Heating an empty deck: face, underside and air against time."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from mattone_engine.heat import column as k
from mattone_engine.heat.environment import AMBIENT_C, cavity_parameters, cold_cavity, control_row, enclosed_emissivity
from mattone_engine.heat.parameters import Values
from mattone_engine.things import Event, Hearth, Overhead, Pan, Surface
from mattone_engine.things.capabilities import materials


@dataclass(frozen=True)
class Preheat:
    """t_s, deck_c, under_c, air_c: shape (n,); profile_c bottom to top; cavity at the end.

    pan_c is where a pan heated along with it stands at the end, pan_trace_c (n,) its way there.
    """

    t_s: np.ndarray
    deck_c: np.ndarray
    under_c: np.ndarray
    air_c: np.ndarray
    profile_c: np.ndarray
    cavity: np.ndarray
    pan_c: float | None = None
    pan_trace_c: np.ndarray | None = None


def deck_cells(surface: Surface) -> tuple[np.ndarray, np.ndarray]:
    """Thickness (m) of the deck's cells, bottom to top, and their half resistances (m2K/W).

    Metal is nearly isothermal and takes three cells; stone is graded to 0.3 mm at the face.
    """
    return _deck_cells(surface.kind, surface.thickness_mm)


@lru_cache(maxsize=128)
def _deck_cells(kind: str, thickness_mm: float) -> tuple[np.ndarray, np.ndarray]:
    material = materials()[kind]
    total = thickness_mm / 1000.0
    face = min(3e-4, total / 4.0)
    count = 3 if material.conductivity > 10.0 else 8
    ratio = _geometric_ratio(face, total, count)
    widths = face * ratio ** np.arange(count)
    widths *= total / widths.sum()
    widths = widths[::-1].copy()
    half = 0.5 * widths / material.conductivity
    widths.flags.writeable = half.flags.writeable = False
    return widths, half


def _geometric_ratio(first: float, total: float, count: int) -> float:
    """Ratio r with first (1 + r + ... r^(count-1)) = total, by bisection."""
    low, high = 1.0, 30.0
    for _ in range(60):
        mid = 0.5 * (low + high)
        length = first * (mid**count - 1.0) / (mid - 1.0) if mid > 1.0 + 1e-12 else first * count
        low, high = (mid, high) if length < total else (low, mid)
    return 0.5 * (low + high)


# Between a pan and the deck it heats on, W/m2K.
PAN_ON_DECK = 36.0
# The shortest stretch that is marched.
SHORTEST_S = 1.0
# What stands for an empty rack.
RACK = Surface(kind="steel", thickness_mm=0.5)


def preheat(
    hearth: Hearth,
    surface: Surface | None,
    minutes: float,
    *,
    events: tuple[Event, ...] = (),
    pan: Pan | None = None,
    overhead: Overhead | None = None,
    step_s: float = 10.0,
    values: Values | None = None,
) -> Preheat:
    """Heat `surface` (None: an empty rack) on the hearth's level from room temperature.

    Events before launch (negative at_s: top element, fan, setpoint, door) are obeyed. A `pan` stands
    on the surface, or on the rack in its stead.
    """
    # A cold start has heated for a moment: a step of no time has no slope.
    minutes = max(minutes, SHORTEST_S / 60.0)
    count = max(1, int(np.ceil(minutes * 60.0 / step_s)))
    times = np.linspace(0.0, minutes * 60.0, count + 1)
    controls = _controls(hearth, times, events, values)
    return heat_on(hearth, surface, cold_cavity(), None, times, controls, pan=pan, overhead=overhead, values=values)


def _controls(hearth: Hearth, times: np.ndarray, events: tuple[Event, ...], values: Values | None = None) -> np.ndarray:
    """The hearth's controls over `times` (n,), which end with the launch; events before it are obeyed. Shape (n - 1, CONTROL_SIZE)."""
    controls = np.repeat(control_row(hearth, hearth.level, values)[None, :], times.size - 1, axis=0)
    launch_s = times[-1]
    for event in sorted((e for e in events if e.at_s < 0), key=lambda e: e.at_s):
        since = times[:-1] >= launch_s + event.at_s - 1e-9
        if event.do in ("top_element_on", "top_element_off"):
            controls[since, k.U_FULL] = float(event.do == "top_element_on")
        elif event.do in ("fan_on", "fan_off"):
            controls[since, k.U_FAN] = float(event.do == "fan_on")
        elif event.do == "setpoint" and event.setpoint_c is not None:
            controls[since, k.U_SETPOINT] = hearth.really_c(event.setpoint_c)
        elif event.do == "door":
            controls[since & (times[:-1] < launch_s + event.at_s + event.seconds - 1e-9), k.U_DOOR] = 1.0
    return controls


def fire_up(hearth: Hearth, surface: Surface | None, minutes: float, *, tau_min: float, step_s: float = 20.0) -> Preheat:
    """Heat `surface` over a fire that comes up to its floor and dome with the time constant tau_min.

    The hearth's floor_c and dome_c are what it comes to. t_s in seconds after lighting.
    """
    minutes = max(minutes, SHORTEST_S / 60.0)
    count = max(1, int(np.ceil(minutes * 60.0 / step_s)))
    times = np.linspace(0.0, minutes * 60.0, count + 1)
    widths, half, heat, emissivity = _stack(surface, None)
    t = np.full(widths.size, AMBIENT_C)
    out = np.zeros((count + 1, 5))
    out[0] = AMBIENT_C
    p = cavity_parameters(hearth, 0.0)
    floor_c, dome_c = p[k.P_FLOOR_C], p[k.P_DOME_C]
    air_c = hearth.air_c if hearth.air_c is not None else 0.5 * (floor_c + dome_c)
    cavity = cold_cavity()
    controls = control_row(hearth, hearth.level)[None, :]
    for i in range(count):
        up = 1.0 - np.exp(-(times[i] + 0.5 * step_s) / (60.0 * tau_min))
        p[k.P_FLOOR_C], p[k.P_DOME_C] = (AMBIENT_C + up * (c - AMBIENT_C) for c in (floor_c, dome_c))
        cavity[[k.AIR, k.LINER]] = AMBIENT_C + up * (air_c - AMBIENT_C)
        result = np.zeros((2, 5))
        k.run_preheat(times[i : i + 2].copy(), controls, cavity, p, t, heat, half, enclosed_emissivity(emissivity), widths.size - 1, result)
        out[i + 1] = result[1]
    return Preheat(times, out[:, 0], out[:, 1], out[:, 2], t if surface is not None else np.zeros(0), cavity)


def recover(
    hearth: Hearth,
    surface: Surface | None,
    left: Preheat,
    seconds: float,
    *,
    events: tuple[Event, ...] = (),
    overhead: Overhead | None = None,
    step_s: float = 5.0,
    values: Values | None = None,
) -> Preheat:
    """What a deck and hearth come back to, empty, `seconds` after a bake left them so; events before the next launch are obeyed."""
    seconds = max(seconds, SHORTEST_S)
    count = max(1, int(np.ceil(seconds / step_s)))
    times = np.linspace(0.0, seconds, count + 1)
    profile = left.profile_c if left.profile_c.size else None
    return heat_on(hearth, surface, left.cavity.copy(), profile, times, _controls(hearth, times, events, values), overhead=overhead, values=values)


def heat_on(
    hearth: Hearth,
    surface: Surface | None,
    cavity: np.ndarray,
    profile: np.ndarray | None,
    times: np.ndarray,
    controls: np.ndarray,
    *,
    pan: Pan | None = None,
    overhead: Overhead | None = None,
    values: Values | None = None,
) -> Preheat:
    """March deck and cavity over `times` (n,) from `profile` (None: room temperature)."""
    widths, half, heat, emissivity = _stack(surface, pan)
    p = cavity_parameters(hearth, 0.0, overhead, values)
    start = np.full(widths.size, AMBIENT_C) if profile is None else profile.copy()
    out = np.zeros((times.size, 5))
    deck = widths.size - int(pan is not None)
    out[0] = start[max(deck - 1, 0)], start[0], cavity[k.AIR], cavity[k.LINER], start[-1]
    k.run_preheat(times, controls, cavity, p, start, heat, half, enclosed_emissivity(emissivity), max(deck - 1, 0), out)
    whole = surface is not None
    return Preheat(
        times, out[:, 0], out[:, 1], out[:, 2], start[:deck].copy() if whole else np.zeros(0), cavity,
        float(start[-1]) if pan is not None else None, out[:, 4].copy() if pan is not None else None,
    )  # fmt: skip


def _stack(surface: Surface | None, pan: Pan | None) -> tuple[np.ndarray, np.ndarray, np.ndarray, float]:
    """Widths (m), half resistances (m2K/W), heat capacities (J/m2K), emissivity of the upper face."""
    below = surface if surface is not None else None if pan is not None else RACK
    widths, half = deck_cells(below) if below is not None else (np.zeros(0), np.zeros(0))
    # The kernels are compiled for arrays that may be written.
    half = half.copy()
    heat = np.zeros(0)
    emissivity = 0.9
    if below is not None:
        material = materials()[below.kind]
        heat, emissivity = widths * material.density * material.heat, material.emissivity
    if pan is not None:
        metal = materials()[pan.kind]
        thick = pan.thickness_mm * 1e-3
        contact = 1.0 / PAN_ON_DECK if below is not None else 0.0
        widths, half = np.append(widths, thick), np.append(half, 0.5 * thick / metal.conductivity + contact)
        heat, emissivity = np.append(heat, thick * metal.density * metal.heat), metal.emissivity
    return widths, half, heat, emissivity
