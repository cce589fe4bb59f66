"""The bake column written a second time, for checking the first.

Method of lines for `scipy.integrate.solve_ivp(method="BDF")`: temperatures and moistures are the
unknowns, and boiling is a fast relaxation towards the sorption curve instead of a flash. Shares
the physics and the property table with `heat.column` but none of its stepping.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy.integrate import solve_ivp

from mattone_engine.heat import column as k
from mattone_engine.heat.properties import free_pipe_w_mk, oswin_scale, saturation_pa, water_activity

RELAX_S = 0.02


@dataclass(frozen=True)
class ReferenceRun:
    """t_s (n,), base L*, top L*, coldest dough C, water lost kg/m2."""

    t_s: np.ndarray
    base_l: np.ndarray
    top_l: np.ndarray
    core_c: np.ndarray
    lost_kg_m2: np.ndarray
    evaluations: int


def _resistances(q: Any, shape: _Shape, loosen: Any, mass: Any, x: Any, tf: Any, hottest: Any) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Half resistances of every cell below and above its middle (m2K/W), and the thickness of the food's (m)."""
    first, nf, nt = shape.first, shape.nf, shape.nt
    n, columns = first + nf + nt, tf.shape[1]
    rise = np.clip((np.maximum(hottest, tf[:nf]) - 35.0) / 50.0, 0.0, 1.0)
    v = q[k.Q_V0] + (q[k.Q_V1] - q[k.Q_V0]) * rise * loosen[first : first + nf, None]
    dx = np.repeat(mass[first:, None] * 1e-3, columns, axis=1)
    dx[:nf] *= v
    below = np.repeat(mass[:n, None], columns, axis=1)
    below[first:] = 0.5 * dx / q[k.Q_K_TOPPING]
    above = below.copy()
    dry = np.maximum(0.0, 1.0 - x[:nf] / q[k.Q_X0])
    passed = 0.5 * np.clip(4.0 * dry - 2.8, 0.0, 1.0)
    path = dx[:nf] * (v + 0.3) / 1.5
    inner = 0.5 * path * (1.0 - dry) / q[k.Q_K_WET] + passed * path * dry / q[k.Q_K_DRY]
    outer = 0.5 * path * (1.0 - dry) / q[k.Q_K_WET] + (1.0 - passed) * path * dry / q[k.Q_K_DRY]
    upward = np.arange(nf)[:, None] >= (nf if nt else nf // 2)
    below[first : first + nf] = np.where(upward, inner, outer)
    above[first : first + nf] = np.where(upward, outer, inner)
    return below, above, dx


def _above(q: Any, bc: np.ndarray, wall_c: Any, x_top: Any, t_top: Any, a_w: Any, psat: Any) -> tuple[Any, Any]:
    """Heat into the upper face, W/m2, and water that dries off it, kg/m2s."""
    t_k = t_top + k.K0
    h_m = bc[k.B_FILM_TOP] / (1000.0 * 0.95) * q[k.Q_WETTED]
    p_s = np.minimum(a_w * psat, q[k.Q_P_AMB])
    dried = h_m * k.M_WATER / (k.R_GAS * t_k) * np.maximum(0.0, p_s - bc[k.B_VAPOUR]) * np.minimum(1.0, x_top / 0.002)
    oven, wall = bc[k.B_RADIANT_TOP] + k.SIGMA * (bc[k.B_VIEW_TOP] + k.K0) ** 4, k.SIGMA * (wall_c + k.K0) ** 4
    heat = q[k.Q_EPS_TOP] * (oven + q[k.Q_WALL] * (wall - oven) - k.SIGMA * t_k**4) + bc[k.B_FILM_TOP] * (bc[k.B_AIR_TOP] - t_top)
    return heat, dried


def _under(q: Any, bc: np.ndarray, t_low: Any) -> Any:
    """Heat into the lower face, W/m2."""
    tb = t_low + k.K0
    return (
        q[k.Q_EPS_UNDER] * (bc[k.B_RADIANT_UNDER] + k.SIGMA * ((bc[k.B_VIEW_UNDER] + k.K0) ** 4 - tb**4))
        + bc[k.B_FILM_UNDER] * (bc[k.B_AIR_UNDER] - t_low)
        + bc[k.B_HOB]
    )


@dataclass(frozen=True)
class _Shape:
    """Where the dough begins, and how many cells it and the topping have."""

    first: int
    nf: int
    nt: int


def _rates(columns: Any, j: int, bc: np.ndarray, table: k.Tables) -> Callable[[float, Any], np.ndarray]:
    """The right-hand side of the whole column, vectorized over states."""
    q = columns.q[j]
    shape = _Shape(int(q[k.Q_DECK_CELLS] + q[k.Q_PAN]), int(q[k.Q_DOUGH]), int(q[k.Q_TOPPING]))
    first, nf, nt = shape.first, shape.nf, shape.nt
    n = first + nf + nt
    food = n - first
    m_dry, mass = columns.m_dry[j, :n], columns.mass[j, :n]
    # Shares of the layer that must boil before the base lifts.
    reach = np.minimum(np.cumsum(mass[first : first + nf]), k.CONTACT_LAYER)
    layer = np.diff(reach, prepend=0.0) / k.CONTACT_LAYER
    boiling_c = 99.0 - (k.STANDARD_PRESSURE_PA - q[k.Q_P_AMB]) / 3500.0

    def rates(_t_s: float, y: Any) -> np.ndarray:
        shaped = y.reshape(y.shape[0], -1)
        t, x = shaped[:n], shaped[n : n + food]
        hottest = shaped[n + food : n + food + nf]
        lifted = shaped[-2]
        out = np.zeros_like(shaped)
        tf = t[first:]
        md = m_dry[first:, None]
        psat = saturation_pa(tf + k.K0)
        a_w = water_activity(x, oswin_scale(tf + k.K0))
        p_v = np.minimum(a_w * psat, 0.9 * q[k.Q_P_AMB])
        porous = np.ones((food, 1))
        porous[nf:] = 0.25
        free = free_pipe_w_mk(np.minimum(tf, 300.0) + k.K0, q[k.Q_P_AMB])
        kp = np.where(tf < 105.0, q[k.Q_PIPE] * porous * free * a_w * q[k.Q_P_AMB] / (q[k.Q_P_AMB] - p_v), 0.0)
        below, above, dx = _resistances(q, shape, columns.loosen[j], mass, x, tf, hottest)
        r = above[:-1] + below[1:]
        if first:
            tm = 0.5 * (t[first - 1] + t[first]) + k.K0
            h_c = q[k.Q_H_GAP] + (q[k.Q_H_WET] - q[k.Q_H_GAP]) * np.exp(-lifted / q[k.Q_LIFT]) + 4.0 * k.SIGMA * 0.85 * tm**3
            r[first - 1] += 1.0 / h_c + q[k.Q_R_PARCHMENT]
        g = 1.0 / r
        flow = g * (t[:-1] - t[1:])
        through = 2.0 * kp / dx
        both = (through[:-1] > 0) & (through[1:] > 0)
        along = np.where(both, through[:-1] * through[1:] / np.maximum(through[:-1] + through[1:], 1e-30), 0.0)
        vapour = along * (tf[:-1] - tf[1:]) / k.LATENT
        net = np.zeros_like(t)
        net[:-1] -= flow
        net[1:] += flow
        dx_dt = np.zeros_like(x)
        # Vapour carries its latent heat; its small sensible heat stays with the water.
        net[first:-1] -= vapour * k.LATENT
        net[first + 1 :] += vapour * k.LATENT
        dx_dt[:-1] -= vapour / md[:-1]
        dx_dt[1:] += vapour / md[1:]
        heat, dried = _above(q, bc, t[max(0, first - 1)], x[-1], tf[-1], a_w[-1], psat[-1])
        net[-1] += heat - dried * k.LATENT
        dx_dt[-1] -= dried / md[-1]
        net[0] += _under(q, bc, t[0])
        x_q = np.interp(tf, k.T_LO + k.T_STEP * np.arange(k.ROW_COUNT), table.rows[k.ROW_XQ])
        steam = np.maximum(0.0, x - x_q) / RELAX_S * md
        net[first:] -= steam * k.LATENT
        dx_dt -= steam / md
        capacity = np.concatenate([np.repeat(columns.c_solid[j, :first, None], shaped.shape[1], axis=1), md * (k.C_DRY + k.C_WATER * x)])
        out[:n] = net / capacity
        out[n : n + food] = dx_dt
        out[n + food : n + food + nf] = np.where(tf[:nf] >= hottest - 0.05, np.maximum(out[first : first + nf], 0.0), 0.0)
        contact: Any = g[first - 1] * (t[first - 1] - t[first]) if first else 0.0
        wall_base = t[first] + np.maximum(0.0, contact * below[first])
        wall_top = np.minimum(tf[-1] + np.maximum(0.0, (heat - dried * k.LATENT) * above[-1]), tf[-1] + 60.0)
        out[-4] = -_browning(wall_base, np.maximum(q[k.Q_AW_FLOOR], a_w[0]), q[k.Q_BROWN_BASE], q[k.Q_K_MAX])
        out[-3] = -_browning(wall_top, np.maximum(q[k.Q_AW_FLOOR], a_w[-1]), q[k.Q_BROWN_TOP], q[k.Q_K_MAX])
        boils = (layer[:, None] * tf[:nf]).sum(axis=0) >= boiling_c
        out[-2] = np.where(boils | (lifted > 1.0), np.maximum(0.0, contact), 0.0)
        out[-1] = dried + steam.sum(axis=0)
        return np.asarray(out.reshape(y.shape))

    return rates


def bake_column(columns: Any, j: int, bc: np.ndarray, table: k.Tables, t_eval: np.ndarray, *, rtol: float = 1e-4, atol: float = 1e-4) -> ReferenceRun:
    """Bake column `j` of `heat.run.Columns` under the constant boundary `bc` (see advance_column)."""
    q, s = columns.q[j], columns.s[j]
    first = int(q[k.Q_DECK_CELLS] + q[k.Q_PAN])
    nf, nt = int(q[k.Q_DOUGH]), int(q[k.Q_TOPPING])
    n = first + nf + nt
    y0 = np.concatenate([columns.t[j, :n], columns.x[j, first:n], columns.t[j, first : first + nf], [0.0, 0.0, 0.0, 0.0]])

    rates = _rates(columns, j, bc, table)
    # SciPy's numerical Jacobian overflows harmlessly where a state does not matter.
    with np.errstate(over="ignore", invalid="ignore", divide="ignore"):
        solved = solve_ivp(rates, (0.0, float(t_eval[-1])), y0, method="BDF", t_eval=t_eval, rtol=rtol, atol=atol, vectorized=True, first_step=1e-3)
    if not solved.success:
        raise ArithmeticError(f"the reference solver gave up: {solved.message}")
    y = solved.y
    # Colours fall from where they start towards their ends by the logs that were solved.
    base_l, top_l = (
        end + (start - end) * np.exp(logs) for start, end, logs in ((s[k.S_L_BASE], q[k.Q_L_END_BASE], y[-4]), (s[k.S_L_TOP], q[k.Q_L_END_TOP], y[-3]))
    )
    return ReferenceRun(solved.t, base_l, top_l, _core(y[first : first + nf], columns.mass[j, first : first + nf]), y[-1], int(solved.nfev))


def _core(t: np.ndarray, mass: np.ndarray) -> np.ndarray:
    """The coldest layer of CORE_LAYER, from temperatures (cells, n) and masses (cells,)."""
    heat, load = np.cumsum(t * mass[:, None], axis=0), np.cumsum(mass)
    found = np.full(t.shape[1], np.inf)
    for last in range(mass.size):
        before = np.flatnonzero(load[last] - load[:last] >= k.CORE_LAYER)
        low = int(before[-1]) + 1 if before.size else 0
        layer = load[last] - (load[low - 1] if low else 0.0)
        if layer >= k.CORE_LAYER or last == mass.size - 1:
            found = np.minimum(found, (heat[last] - (heat[low - 1] if low else 0.0)) / layer)
    return found


def _browning(t_c: np.ndarray, a_w: np.ndarray, multiplier: float, k_max: float) -> np.ndarray:
    rate = (7.9233e6 + 2.7397e6 / a_w) * np.exp(-(8.7015e3 + 49.4738 / a_w) / (t_c + k.K0)) / 60.0 * multiplier
    return np.asarray(rate * k_max / (rate + k_max))
