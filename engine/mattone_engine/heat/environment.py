"""What a hearth does to a rack level: the numbers the cavity kernel works with."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from mattone_engine.heat import column as k
from mattone_engine.heat.parameters import Values, known
from mattone_engine.things import Hearth, HearthLimits, Overhead
from mattone_engine.things.capabilities import Build, kinds, materials

DECK_AREA_M2 = 0.13
CAVITY_HEIGHT_M = 0.34
LINER_AREA_M2 = 0.985
AMBIENT_C = 22.0
DOOR_OPEN_S = 12.0
# Of a disk over the whole ceiling, what a glowing element is; a dull one is a ring at its edge, and a parameter.
GLOWING = 0.95
# Where the air is as hot as the sensor says, m over the floor of a usual oven.
LAYER_MIDDLE_M = 0.155


def build_of(hearth: Hearth | HearthLimits) -> Build:
    """The build of this hearth; fires are held, and borrow that of a usual oven."""
    build = hearth.traits.build or kinds().hearths["electric_oven"].build
    assert build is not None
    return build


def level_height_m(level: int, levels: int, build: Build) -> float:
    """Height of a rack level above the cavity floor."""
    low, high = 0.055 * build.height, 0.255 * build.height
    if levels == 1:
        return 0.5 * (low + high)
    return low + (high - low) * (level - 1) / (levels - 1)


def disk_view_factor(radius_m: float, gap_m: float) -> float:
    """View factor between two equal coaxial disks (Howell, configuration C-41)."""
    ratio = radius_m / max(gap_m, 1e-3)
    x = 2.0 + 1.0 / (ratio * ratio)
    return 0.5 * (x - math.sqrt(x * x - 4.0))


def top_view(level: int, levels: int, build: Build) -> float:
    """Share of the top element's radiation that a deck on this level takes."""
    return build.top_view * disk_view_factor(0.19, CAVITY_HEIGHT_M * build.height - level_height_m(level, levels, build))


def bottom_view(level: int, levels: int, build: Build, values: Values | None = None) -> float:
    """Share of the bottom element's radiation that a deck's underside takes.

    The element lies under or round the floor plate, which takes its heat and glows dully as a whole; part of it always goes to the liner.
    """
    v = known(values)
    return min(1.0, v["floor_view"] * build.bottom_view) * disk_view_factor(v["floor_radius"], level_height_m(level, levels, build))


def layer_k(level: int, levels: int, build: Build, values: Values | None = None) -> float:
    """How much hotter the air of this level is than the middle's, in a still oven 230 K over its kitchen, K."""
    return known(values)["layer"] * (level_height_m(level, levels, build) / build.height - LAYER_MIDDLE_M) / 0.1


def enclosed_emissivity(emissivity: float) -> float:
    """Emissivity of a face seen by a grey liner of 0.85 (parallel faces)."""
    return 1.0 / (1.0 / emissivity + 1.0 / 0.85 - 1.0)


def cavity_parameters(hearth: Hearth, food_area_m2: float, overhead: Overhead | None = None, values: Values | None = None) -> np.ndarray:
    """Parameter vector of `column.step_cavity`, shape (CAVITY_PARAMS,). values: the model's parameters where they are not as usual."""
    if known(values) is known(None):
        return _usual_parameters(hearth, food_area_m2, overhead).copy()
    return _parameters(hearth, food_area_m2, overhead, known(values))


@lru_cache(maxsize=512)
def _usual_parameters(hearth: Hearth, food_area_m2: float, overhead: Overhead | None) -> np.ndarray:
    return _parameters(hearth, food_area_m2, overhead, known(None))


def _parameters(hearth: Hearth, food_area_m2: float, overhead: Overhead | None, v: Values) -> np.ndarray:
    p = np.zeros(k.CAVITY_PARAMS)
    build = build_of(hearth)
    scale = build.size
    p[k.P_C_AIR] = 160.0 * scale
    p[k.P_C_LINER] = 6000.0 * scale
    p[k.P_C_SKIN] = 5000.0 * scale
    p[k.P_A_LINER] = LINER_AREA_M2 * scale * 1.6  # racks and ribs exchange with the air too
    p[k.P_A_DECK] = max(DECK_AREA_M2 * min(1.0, scale + 0.15), food_area_m2)
    p[k.P_A_FOOD] = food_area_m2
    p[k.P_U_LINER_SKIN] = 6.0 * scale * build.loss * hearth.loss_factor
    p[k.P_U_LOSS] = 2.8 * scale * build.loss * hearth.loss_factor  # in series with liner-skin: 1.9 W/K
    watts = hearth.power_kw * 1000.0
    p[k.P_BOTTOM_W] = build.bottom_share * watts
    p[k.P_TOP_W] = (1.0 - build.bottom_share) * watts
    p[k.P_FULL_W] = hearth.top_element_kw * 1000.0
    p[k.P_FAN_W] = 0.8 * watts
    p[k.P_H_STATIC] = 5.0 * hearth.deck_factor
    p[k.P_H_FAN] = v["fan_under"] * hearth.deck_factor * hearth.fan_film
    p[k.P_H_FOOD_STATIC] = 4.0
    p[k.P_H_FOOD_FAN] = v["fan_food"] * hearth.fan_film
    p[k.P_AMBIENT_C] = AMBIENT_C
    p[k.P_TAU_ELEMENT] = 60.0
    p[k.P_TAU_SENSOR] = 25.0
    p[k.P_HYSTERESIS] = 4.0
    p[k.P_DOOR_W_K] = 25.0 * scale
    p[k.P_CONV_SHARE] = build.convective
    p[k.P_FULL_DUTY] = 0.9
    p[k.P_FULL_STOP_C] = hearth.top_stop_c
    p[k.P_COOL_STATIC], p[k.P_COOL_FAN] = v["cool_view"], v["cool_view_fan"] * v["cool_view"]
    p[k.P_RING_DULL], p[k.P_RING_FULL] = v["ring_dull"], GLOWING
    if overhead is not None:
        set_second_deck(p, hearth, hearth.level, overhead, v)
    if hearth.traits.fire is not None:
        p[k.P_HELD] = 1.0
        p[k.P_H_FOOD_STATIC] = p[k.P_H_STATIC] = hearth.traits.fire.film
        p[k.P_FLOOR_C] = flame_floor_c(hearth)
        dome_c = dome_of(hearth)
        p[k.P_DOME_C] = dome_c - v["hood_cooler"] * (dome_c - AMBIENT_C) if hearth.traits.fire.hooded else dome_c
    return p


def set_second_deck(p: np.ndarray, hearth: Hearth, food_level: int, second: Overhead, values: Values | None = None) -> None:
    """Put into p a deck above the food's level, as a ceiling, or below it, in the way of the floor's heat."""
    build, material = build_of(hearth), materials()[second.kind]
    gap = level_height_m(second.level, hearth.levels, build) - level_height_m(food_level, hearth.levels, build)
    above, seen = gap > 0.0, disk_view_factor(0.19, abs(gap))
    p[k.P_OVER_AREA] = DECK_AREA_M2 * min(1.0, build.size + 0.15)
    p[k.P_OVER_C] = p[k.P_OVER_AREA] * second.thickness_mm * 1e-3 * material.density * material.heat
    p[k.P_OVER_SEEN], p[k.P_UNDER_SEEN] = (seen, 0.0) if above else (0.0, seen)
    # Each takes what its own element sends; what hangs or lies between hides the other's.
    p[k.P_OVER_TOP_VIEW] = top_view(second.level, hearth.levels, build) if above else 0.0
    p[k.P_OVER_BOTTOM_VIEW] = 0.0 if above else bottom_view(second.level, hearth.levels, build, values)


def flame_floor_c(hearth: Hearth) -> float:
    """Temperature below the deck of a flame oven or grill."""
    return hearth.floor_c if hearth.floor_c is not None else hearth.setpoint_c


def dome_of(hearth: Hearth) -> float:
    """Temperature of the dome or hood over a flame hearth's food."""
    return hearth.dome_c if hearth.dome_c is not None else flame_floor_c(hearth)


def kitchen_parameters() -> np.ndarray:
    """A pan on the hob: still air and walls at room temperature, shape (CAVITY_PARAMS,)."""
    p = np.zeros(k.CAVITY_PARAMS)
    p[k.P_HELD] = 1.0
    p[k.P_H_STATIC] = p[k.P_H_FOOD_STATIC] = 8.0
    p[k.P_FLOOR_C] = p[k.P_DOME_C] = AMBIENT_C
    return p


def cold_cavity() -> np.ndarray:
    """A hearth at room temperature, shape (CAVITY_SIZE,)."""
    cav = np.zeros(k.CAVITY_SIZE)
    cav[[k.AIR, k.LINER, k.SKIN, k.SENSOR, k.OVER]] = AMBIENT_C
    return cav


def steady_cavity(hearth: Hearth, p: np.ndarray) -> np.ndarray:
    """A hearth held at its setpoint for long, elements at their mean duty."""
    cav = np.zeros(k.CAVITY_SIZE)
    build = build_of(hearth)
    real_c = hearth.really_c()
    u = 1.0 / (1.0 / p[k.P_U_LINER_SKIN] + 1.0 / p[k.P_U_LOSS])
    watts = u * (real_c - AMBIENT_C)
    cav[k.AIR] = hearth.air_c if hearth.air_c is not None else real_c
    cav[k.SENSOR] = real_c
    cav[k.LINER] = real_c + 2.0
    cav[k.SKIN] = real_c - watts / p[k.P_U_LINER_SKIN]
    if not hearth.fan:
        cav[k.RAD_BOTTOM] = build.bottom_share * watts
        cav[k.RAD_TOP] = (1.0 - build.bottom_share) * watts
    return cav


def control_row(hearth: Hearth, level: int, values: Values | None = None) -> np.ndarray:
    """Controls of an interval, shape (CONTROL_SIZE,), top element off and door shut."""
    return _usual_row(hearth, level).copy() if known(values) is known(None) else _row(hearth, level, known(values))


@lru_cache(maxsize=512)
def _usual_row(hearth: Hearth, level: int) -> np.ndarray:
    return _row(hearth, level, known(None))


def _row(hearth: Hearth, level: int, values: Values) -> np.ndarray:
    u = np.zeros(k.CONTROL_SIZE)
    u[k.U_SETPOINT] = hearth.really_c()
    u[k.U_FAN] = float(hearth.fan)
    u[k.U_VIEW_TOP] = top_view(level, hearth.levels, build_of(hearth))
    u[k.U_VIEW_BOTTOM] = bottom_view(level, hearth.levels, build_of(hearth), values)
    u[k.U_LAYER_K] = layer_k(level, hearth.levels, build_of(hearth), values)
    u[k.U_HEAT] = 1.0
    u[k.U_SECTOR] = 1.0
    u[k.U_SHIELD] = 1.0
    return u
