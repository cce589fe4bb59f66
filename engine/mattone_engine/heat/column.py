"""The solver kernels: a bake as a few coupled one-dimensional columns inside a hearth.

All compiled code lives in this one file, because a compiled callee edited in another file
would leave a stale cache behind. Everything here is plain arrays; the names of their slots are
the constants below, and `heat.environment` and `heat.run` fill them.

A column is a stack of nodes from the bottom of the surface to the top of the food. Each node
has a temperature; dough and topping nodes also have a moisture X (kg water / kg dry). A step

1. solves the implicit heat balance with the boiling kink by Newton iteration (Thomas solves),
2. computes the fluxes from the solved temperatures and moves enthalpy and water by them,
3. flashes every node: what exceeds the sorption moisture at ambient pressure leaves as steam.

Because 2 moves the same flux out of one node and into the next, energy and water close to
rounding whatever the Newton iteration left over.

Sources: sorption, Oswin form of Lind & Rask (1991); vapour heat pipe, de Vries (1958);
browning, Purlis & Salvadori (2009); saturation pressure, Wagner & Pruss (2002).
"""

from __future__ import annotations

import math

import numpy as np
from numba import njit

# Reordering and fused operations only: NaN and infinity keep their meaning.
FAST = {"contract", "arcp", "nsz", "reassoc"}

SIGMA = 5.670374e-8  # W/m2K4
R_GAS = 8.314462  # J/molK
M_WATER = 0.018015  # kg/mol
LATENT = 2.30e6  # J/kg
C_WATER = 4186.0  # J/kgK
C_DRY = 1600.0  # J/kgK
K0 = 273.15
STANDARD_PRESSURE_PA = 101325.0

GUMMY = 1.25  # moisture against the dough's own from which the crumb under the sauce is gummy
EPS_OVER = 0.85  # of a second deck
CORE_LAYER = 0.30  # kg/m2 of dough that is its core: the coldest such layer
CONTACT_LAYER = 0.20  # kg/m2 of dough that must boil before the base begins to lift

# Tables over temperature: T_LO + i * T_STEP in C.
T_LO = -20.0
T_STEP = 0.05
T_INV = 1.0 / T_STEP
T_COUNT = 9601  # to 460 C

# Rows of the property table.
ROW_PSAT = 0  # Pa
ROW_XQ = 1  # sorption moisture at a_w = p_ambient / p_sat
ROW_SORB = 2  # 1 / Oswin scale, kg/kg
ROW_PIPE = 3  # heat carried by free vapour diffusion at saturation, W/mK
ROW_ACTIVITY = 4  # water activity, over moisture / Oswin scale
ROW_BOIL = 5  # C at which a moisture begins to boil off, over its fourth root
U_STEP = 0.0025
U_INV = 1.0 / U_STEP
V_STEP = 1.6 / (T_COUNT - 1)
V_INV = 1.0 / V_STEP

# Cavity state.
AIR, LINER, SKIN, RAD_BOTTOM, RAD_TOP, RAD_FULL, SENSOR, CALLING, DUTY, OVER = range(10)
CAVITY_SIZE = 10

# Cavity parameters.
(
    P_C_AIR,
    P_C_LINER,
    P_C_SKIN,
    P_A_LINER,
    P_A_DECK,
    P_A_FOOD,
    P_U_LINER_SKIN,
    P_U_LOSS,
    P_BOTTOM_W,
    P_TOP_W,
    P_FULL_W,
    P_FAN_W,
    P_H_STATIC,
    P_H_FAN,
    P_H_FOOD_STATIC,
    P_H_FOOD_FAN,
    P_AMBIENT_C,
    P_TAU_ELEMENT,
    P_TAU_SENSOR,
    P_HYSTERESIS,
    P_DOOR_W_K,
    P_CONV_SHARE,
    P_HELD,
    P_FLOOR_C,
    P_DOME_C,
    P_FULL_DUTY,
    P_OVER_C,
    P_OVER_AREA,
    P_OVER_TOP_VIEW,
    P_OVER_SEEN,
    P_COOL_STATIC,
    P_COOL_FAN,
    P_RING_DULL,
    P_RING_FULL,
) = range(34)
CAVITY_PARAMS = 34

# Controls of one interval.
(
    U_SETPOINT,
    U_FAN,
    U_FULL,
    U_VIEW_TOP,
    U_VIEW_BOTTOM,
    U_DOOR,
    U_HEAT,
    U_SECTOR,
    U_HOB,
    U_SHIELD,
    U_LAYER_K,
) = range(11)
CONTROL_SIZE = 11
# What U_LAYER_K is told for: a hearth so much hotter than its kitchen, K.
LAYERED_K = 230.0

# Column parameters.
(
    Q_DECK_CELLS,
    Q_PAN,
    Q_DOUGH,
    Q_TOPPING,
    Q_H_WET,
    Q_H_GAP,
    Q_LIFT,
    Q_R_PARCHMENT,
    Q_X0,
    Q_V0,
    Q_V1,
    Q_K_WET,
    Q_K_DRY,
    Q_K_TOPPING,
    Q_PIPE,
    Q_EPS_TOP,
    Q_EPS_UNDER,
    Q_H_PAN_DECK,
    Q_WETTED,
    Q_P_AMB,
    Q_BROWN_BASE,
    Q_BROWN_TOP,
    Q_K_MAX,
    Q_AREA_SHARE,
    Q_VIEW_FOOD,
    Q_AW_FLOOR,
    Q_TOL,
    Q_UNEVEN,
    Q_L_END_BASE,
    Q_L_END_TOP,
) = range(30)
COLUMN_PARAMS = 30

# Column scalars that evolve.
S_L_BASE, S_L_TOP, S_LIFT, S_LOST, S_HEAT_IN, S_DT, S_STEPS, S_WALL_BASE, S_WALL_TOP = range(9)
COLUMN_STATE = 9
WORK_ROWS = 17

# What a column meets at its faces: films W/m2K, temperatures C, fluxes W/m2, vapour pressure Pa.
(
    B_FILM_TOP,
    B_AIR_TOP,
    B_RADIANT_TOP,
    B_VIEW_TOP,
    B_FILM_UNDER,
    B_AIR_UNDER,
    B_RADIANT_UNDER,
    B_VIEW_UNDER,
    B_HOB,
    B_VAPOUR,
) = range(10)
BOUNDARY_SIZE = 10

# What is recorded of a column at a time of the grid; air and liner stand in its first column only.
(
    R_FACE,
    R_BASE_WALL,
    R_BASE_L,
    R_TOP_L,
    R_CORE,
    R_LOST,
    R_DECK,
    R_TOP_WALL,
    R_DRY_MM,
    R_GUMMY,
    R_AIR,
    R_LINER,
    R_SAUCE,
) = range(13)
RECORD_SIZE = 13

# What a crust is wanted to be, and its bounds: L*, weights, C, %, s.
(
    A_BASE,
    A_RIM,
    A_CHEESE,
    A_WEIGHT_BASE,
    A_WEIGHT_RIM,
    A_WEIGHT_CHEESE,
    A_CORE,
    A_HOT,
    A_SET_LOSS,
    A_TOPPED,
    A_MELTED,
    A_BURNT_BASE,
    A_BURNT_RIM,
    A_BURNT_CHEESE,
    A_PALE,
    A_STEP,
) = range(16)
# What holds a crust back at its pull, or why there is none.
E_BASE, E_RIM, E_CHEESE, E_CORE, E_RAW, E_BURNS, E_NOT_DONE = range(7)

# Heat that food and deck take from the hearth, W.
K_RADIANT_TOP, K_CONVECTIVE_TOP, K_RADIANT_UNDER, K_CONVECTIVE_UNDER = range(4)
SINKS = 4

# How an advance ended.
CONVERGED, TOO_MANY_STEPS, NO_COLUMN = range(3)
MOST_STEPS = 200000


@njit(cache=True, inline="always", error_model="numpy", fastmath=FAST)
def _look(table, row, t_c):
    f = (t_c - T_LO) * T_INV
    if f < 0.0:
        f = 0.0
    if f > T_COUNT - 1.001:
        f = T_COUNT - 1.001
    i = int(f)
    a = table[i, row]
    slope = table[i + 1, row] - a
    return a + (f - i) * slope, slope * T_INV


@njit(cache=True, inline="always", error_model="numpy", fastmath=FAST)
def _activity(table, x, t_c):
    """Water activity of moisture x at t_c, by two table look-ups."""
    inverse_scale, _ = _look(table, ROW_SORB, t_c)
    f = x * inverse_scale * U_INV
    if f < 0.0:
        f = 0.0
    if f > T_COUNT - 1.001:
        f = T_COUNT - 1.001
    i = int(f)
    a = table[i, ROW_ACTIVITY]
    return a + (f - i) * (table[i + 1, ROW_ACTIVITY] - a)


@njit(cache=True, inline="always", error_model="numpy", fastmath=FAST)
def _boiling_c(table, x):
    """Temperature at which moisture x begins to boil off: the ROW_XQ table inverted, over the fourth root of x."""
    f = math.sqrt(math.sqrt(max(0.0, x))) * V_INV
    if f > T_COUNT - 1.001:
        f = T_COUNT - 1.001
    i = int(f)
    a = table[i, ROW_BOIL]
    return a + (f - i) * (table[i + 1, ROW_BOIL] - a)


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def browning_rate(t_c, a_w, multiplier, k_max):
    """First-order rate of L* (1/s), after Purlis & Salvadori (2009), with a plateau k_max."""
    t_k = t_c + K0
    k = (7.9233e6 + 2.7397e6 / a_w) * math.exp(-(8.7015e3 + 49.4738 / a_w) / t_k) / 60.0
    k *= multiplier
    return k * k_max / (k + k_max)


@njit(cache=True, nogil=True, inline="always", error_model="numpy", fastmath=FAST)
def _solve_symmetric(begin, end, link, di, rhs, solution):
    """Solve di T[i] - link[i-1] T[i-1] - link[i] T[i+1] = rhs over begin <= i < end, in place.

    Eliminates from both ends to the middle and substitutes outwards: two short chains of
    divisions that run side by side instead of one long one. di becomes its reciprocals.
    """
    above = (end - 1 - begin) // 2
    mid = end - 1 - above
    last = end - 1
    for k in range(above):
        i = begin + k
        di[i] = 1.0 / di[i]
        w = link[i] * di[i]
        rhs[i + 1] += w * rhs[i]
        di[i + 1] -= w * link[i]
        i = last - k
        di[i] = 1.0 / di[i]
        w = link[i - 1] * di[i]
        rhs[i - 1] += w * rhs[i]
        di[i - 1] -= w * link[i - 1]
    if mid - begin > above:
        i = mid - 1
        di[i] = 1.0 / di[i]
        w = link[i] * di[i]
        rhs[mid] += w * rhs[i]
        di[mid] -= w * link[i]
    solution[mid] = rhs[mid] / di[mid]
    for k in range(1, above + 1):
        i = mid - k
        solution[i] = (rhs[i] + link[i] * solution[i + 1]) * di[i]
        i = mid + k
        solution[i] = (rhs[i] + link[i - 1] * solution[i - 1]) * di[i]
    if mid - begin > above:
        solution[begin] = (rhs[begin] + link[begin] * solution[begin + 1]) * di[begin]


@njit(cache=True, nogil=True, inline="always", error_model="numpy", fastmath=FAST)
def _conduction_rows(h, t, c_solid, half, link, di, rhs):
    """Fill the implicit rows of dry conduction through a stack, without its outer faces."""
    n = t.shape[0]
    for i in range(n):
        di[i] = c_solid[i] / h
        rhs[i] = c_solid[i] / h * t[i]
    for i in range(n - 1):
        link[i] = 1.0 / (half[i] + half[i + 1])
        di[i] += link[i]
        di[i + 1] += link[i]


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def advance_column(span, t, x, t_max, s, q, m_dry, mass_r, c_solid, loosen, bc, table, work):
    """Advance one column by `span` seconds under a constant boundary.

    t, x, t_max, m_dry, mass_r, c_solid, loosen: shape (nodes,). bc: the B_ slots. Returns heat taken from above and below,
    J/m2, the convective part of each, and how it ended. Its six stages stand in one loop: each in a
    function of its own cost a fiftieth of every bake.
    """
    nd = int(q[Q_DECK_CELLS])
    npan = int(q[Q_PAN])
    first = nd + npan
    nf = int(q[Q_DOUGH])
    n = first + nf + int(q[Q_TOPPING])
    if nd < 0 or npan < 0 or nf < 1 or n < first + nf:
        return 0.0, 0.0, 0.0, 0.0, NO_COLUMN  # never so; it tells the compiler that no index is negative
    c = work[0]
    g = work[1]
    pipe = work[2]
    link = work[3]
    di = work[4]
    rhs = work[5]
    tn = work[6]
    half = work[7]
    e = work[8]
    khp = work[9]
    kink = work[10]
    side = work[11]
    di_lin = work[12]
    rhs_lin = work[13]
    flow = work[14]
    moved = work[15]
    half_up = work[16]
    p_amb = q[Q_P_AMB]
    taken_top = 0.0
    taken_under = 0.0
    conv_top = 0.0
    conv_under = 0.0
    left = span
    dt = s[S_DT]
    top = n - 1
    near_boiling = 78.0 - (STANDARD_PRESSURE_PA - p_amb) / 3500.0
    inv_x0 = 1.0 / q[Q_X0]
    k_dry = q[Q_K_DRY]
    k_wet = q[Q_K_WET]
    v0 = q[Q_V0]
    v_span = q[Q_V1] - v0
    # Dough above this cell dries towards the top: the upper half of a bare column.
    turn = first + nf if n > first + nf else first + nf // 2
    sky = bc[B_RADIANT_TOP] + SIGMA * (bc[B_VIEW_TOP] + K0) ** 4
    ground = bc[B_RADIANT_UNDER] + SIGMA * (bc[B_VIEW_UNDER] + K0) ** 4
    # Surface film for evaporation below boiling (Lewis relation).
    h_m = bc[B_FILM_TOP] / (1000.0 * 0.95) * q[Q_WETTED]
    for i in range(first):
        c[i] = c_solid[i]
        half[i] = mass_r[i]
        half_up[i] = half[i]
    guard = 0
    while left > 1e-9 and guard < MOST_STEPS:
        guard += 1
        dt_use = left / math.ceil(left / dt - 0.1) if dt < left else left
        # Stage 1: what every cell conducts, holds and lets through at the start of the step.
        for i in range(first, first + nf):
            v = v0 + v_span * min(1.0, max(0.0, (t_max[i] - 35.0) * 0.02)) * loosen[i]
            dx = mass_r[i] * v * 1e-3
            # A cell dries from its outer side: a dry layer with the front behind it, in series.
            dry = max(0.0, 1.0 - x[i] * inv_x0)
            path = dx * (v + 0.3) / 1.5
            # Once little is left the front has passed, and the cell's middle is its middle again.
            passed = 0.5 * min(1.0, max(0.0, 4.0 * dry - 2.8))
            inner = 0.5 * path * (1.0 - dry) / k_wet
            outer = inner + (1.0 - passed) * path * dry / k_dry
            inner += passed * path * dry / k_dry
            if i < turn:
                half[i] = outer
                half_up[i] = inner
            else:
                half[i] = inner
                half_up[i] = outer
            khp[i] = 2.0 * q[Q_PIPE] / dx
        for i in range(first + nf, n):
            half[i] = 0.5 * mass_r[i] * 1e-3 / q[Q_K_TOPPING]
            half_up[i] = half[i]
            khp[i] = 0.5 * q[Q_PIPE] / (mass_r[i] * 1e-3)
        for i in range(first, n):
            t_i = t[i]
            c[i] = m_dry[i] * (C_DRY + C_WATER * x[i])
            psat, _ = _look(table, ROW_PSAT, t_i)
            free, _ = _look(table, ROW_PIPE, t_i)
            a_w = _activity(table, x[i], t_i)
            p_v = min(a_w * psat, 0.9 * p_amb)
            moist = p_amb * a_w if t_i < 105.0 else 0.0
            khp[i] *= free * moist / (p_amb - p_v)
        for i in range(first, n):
            # Far below boiling the exact kink cannot matter to this step.
            t_i = t[i]
            kink[i] = _boiling_c(table, x[i]) if t_i > near_boiling else near_boiling + 10.0
            side[i] = 1.0 if t_i > kink[i] else 0.0
        # Stage 2: what links the cells: contact, conduction, vapour.
        # The base lifts on the steam it makes: by the heat that went in since its layer boiled.
        wet = math.exp(-s[S_LIFT] / q[Q_LIFT])
        h_c = q[Q_H_GAP] + (q[Q_H_WET] - q[Q_H_GAP]) * wet
        tm = 0.5 * (t[first - 1] + t[first]) + K0
        h_c += 4.0 * SIGMA * 0.85 * tm * tm * tm
        for i in range(n - 1):
            g[i] = half_up[i] + half[i + 1]
        g[first - 1] += 1.0 / h_c + q[Q_R_PARCHMENT]
        if npan == 1 and nd > 0:
            g[nd - 1] += 1.0 / q[Q_H_PAN_DECK]
        for i in range(n - 1):
            g[i] = 1.0 / g[i]
        # Vapour flows in parallel with conduction, and only between two moist cells.
        for i in range(first, n - 1):
            along = khp[i] * khp[i + 1] / (khp[i] + khp[i + 1] + 1e-30)
            # No more than the giving cell can spare at the difference the step starts with.
            donor = i if t[i] > t[i + 1] else i + 1
            along = min(along, 0.45 * LATENT * m_dry[donor] * x[donor] / (dt_use * (abs(t[i] - t[i + 1]) + 0.2)))
            g[i] += along
            pipe[i] = along / g[i]
        for i in range(n - 1):
            link[i] = dt_use * g[i]
        # The linear part of the rows; radiation from below at the slope of the step's start.
        for i in range(n):
            di_lin[i] = c[i]
            rhs_lin[i] = c[i] * t[i]
            tn[i] = t[i]
        for i in range(n - 1):
            di_lin[i] += link[i]
            di_lin[i + 1] += link[i]
        tk = t[0] + K0
        slope = 4.0 * q[Q_EPS_UNDER] * SIGMA * tk * tk * tk
        di_lin[0] += dt_use * (slope + bc[B_FILM_UNDER])
        rhs_lin[0] += dt_use * (q[Q_EPS_UNDER] * (ground - SIGMA * tk * tk * tk * tk) + slope * t[0] + bc[B_FILM_UNDER] * bc[B_AIR_UNDER] + bc[B_HOB])
        # What lies under the dough is linear: it is eliminated once a step.
        for i in range(first):
            di_lin[i] = 1.0 / di_lin[i]
            w = link[i] * di_lin[i]
            di_lin[i + 1] -= w * link[i]
            rhs_lin[i + 1] += w * rhs_lin[i]
        aw_top = _activity(table, x[top], t[top])
        water_top = m_dry[top] * x[top]
        # Stage 3: Newton on the boiling kink.
        for _it in range(12):
            for i in range(first, n):
                di[i] = di_lin[i]
                rhs[i] = rhs_lin[i]
                if side[i] > 0.5:
                    xq, dxq = _look(table, ROW_XQ, tn[i])
                    latent = LATENT * m_dry[i]
                    di[i] -= latent * dxq
                    rhs[i] -= latent * (max(0.0, x[i] - xq) + dxq * tn[i])
            tk = tn[top] + K0
            psat, dpsat = _look(table, ROW_PSAT, tn[top])
            rho = M_WATER / (R_GAS * tk)
            p_s = aw_top * psat
            dp_s = aw_top * dpsat
            if p_s > p_amb:
                p_s = p_amb
                dp_s = 0.0
            w = h_m * rho * max(0.0, p_s - bc[B_VAPOUR])
            # A cell dries in proportion to what it still holds: implicit, so never below nothing.
            held = water_top / (water_top + dt_use * w + 1e-30)
            w *= held
            dw = h_m * rho * dp_s * held * held
            slope = 4.0 * q[Q_EPS_TOP] * SIGMA * tk * tk * tk + bc[B_FILM_TOP] + LATENT * dw
            net = q[Q_EPS_TOP] * (sky - SIGMA * tk * tk * tk * tk) + bc[B_FILM_TOP] * (bc[B_AIR_TOP] - tn[top]) - LATENT * w
            rhs[top] += dt_use * (net + slope * tn[top])
            di[top] += dt_use * slope
            _solve_symmetric(first, n, link, di, rhs, rhs)
            worst = 0.0
            for i in range(first, n):
                old = tn[i]
                new = min(max(rhs[i], old - 40.0), old + 40.0)
                # Only boiling cells and the face are not linear: the others are right at once.
                if side[i] > 0.5 or new != rhs[i]:
                    worst = max(worst, abs(new - old))
                elif i == top:
                    worst = max(worst, 0.2 * abs(new - old))
                # Newton may not jump the boiling kink: it stops there and changes slope.
                if side[i] < 0.5:
                    if new > kink[i]:
                        new = kink[i]
                        side[i] = 1.0
                        worst = 1.0
                elif new < kink[i]:
                    if old <= kink[i] + 1e-9:
                        side[i] = 0.0
                    else:
                        new = kink[i]
                    worst = 1.0
                tn[i] = new
            if worst < 0.2:
                break
        # The fluxes must be those of the solved rows: a node held at its kink is off by little in
        # temperature, but by much in what a vapour link carries.
        for i in range(first, n):
            tn[i] = rhs[i]
        for k in range(first):
            i = first - 1 - k
            tn[i] = (rhs_lin[i] + link[i] * tn[i + 1]) * di_lin[i]
        # Stage 4: fluxes of the solved state move enthalpy and water.
        for i in range(n - 1):
            flow[i] = link[i] * (tn[i] - tn[i + 1])
        for i in range(first, n - 1):
            through = pipe[i] * flow[i]
            flow[i] -= through
            # Never more than nearly half, either way, of the water of the cell it comes from.
            m = min(max(through / LATENT, -0.45 * m_dry[i + 1] * x[i + 1]), 0.45 * m_dry[i] * x[i])
            moved[i] = m
            flow[i] += m * (LATENT + C_WATER * (tn[i] if m > 0.0 else tn[i + 1]))
        e[0] = c[0] * t[0] - flow[0]
        for i in range(1, n - 1):
            e[i] = c[i] * t[i] + flow[i - 1] - flow[i]
        e[top] = c[top] * t[top] + flow[top - 1]
        x[first] -= moved[first] / m_dry[first]
        for i in range(first + 1, n - 1):
            x[i] += (moved[i - 1] - moved[i]) / m_dry[i]
        x[top] += moved[top - 1] / m_dry[top]
        tk = tn[top] + K0
        q_conv = bc[B_FILM_TOP] * (bc[B_AIR_TOP] - tn[top])
        heat = dt_use * (q[Q_EPS_TOP] * (sky - SIGMA * tk * tk * tk * tk) + q_conv)
        taken_top += heat
        conv_top += dt_use * q_conv
        e[top] += heat
        psat, _ = _look(table, ROW_PSAT, tn[top])
        w = h_m * M_WATER / (R_GAS * tk) * max(0.0, min(aw_top * psat, p_amb) - bc[B_VAPOUR])
        water_top = m_dry[top] * x[top]
        dried = dt_use * w * water_top / (water_top + dt_use * w + 1e-30)
        out_energy = dried * (LATENT + C_WATER * tn[top])
        e[top] -= out_energy
        x[top] -= dried / m_dry[top]
        s[S_LOST] += dried
        tk = tn[0] + K0
        q_conv = bc[B_FILM_UNDER] * (bc[B_AIR_UNDER] - tn[0])
        heat_u = dt_use * (q[Q_EPS_UNDER] * (ground - SIGMA * tk * tk * tk * tk) + q_conv + bc[B_HOB])
        taken_under += heat_u
        conv_under += dt_use * q_conv
        e[0] += heat_u
        # Stage 5, flash: what exceeds the moisture that can stay at this pressure leaves as steam.
        for i in range(first):
            rhs[i] = e[i] / c[i]
        for i in range(first, n):
            c[i] = m_dry[i] * (C_DRY + C_WATER * x[i])
            rhs[i] = e[i] / c[i]
        for i in range(first, n):
            if rhs[i] > near_boiling:
                xq, _ = _look(table, ROW_XQ, rhs[i])
                if x[i] > xq:
                    latent = LATENT * m_dry[i]
                    tt = tn[i]
                    for _k in range(12):
                        xq, dxq = _look(table, ROW_XQ, tt)
                        f = c[i] * tt - e[i]
                        d = c[i]
                        if x[i] > xq:
                            f += latent * (x[i] - xq)
                            d -= latent * dxq
                        step = min(max(f / d, -15.0), 15.0)
                        tt -= step
                        if abs(step) < 1e-6:
                            break
                    steam = (e[i] - c[i] * tt) / LATENT
                    if steam < 0.0:
                        steam = 0.0
                        tt = e[i] / c[i]
                    elif steam > 0.999 * m_dry[i] * x[i]:
                        steam = 0.999 * m_dry[i] * x[i]
                        tt = (e[i] - LATENT * steam) / c[i]
                    x[i] -= steam / m_dry[i]
                    s[S_LOST] += steam
                    out_energy += steam * (LATENT + C_WATER * tt)
                    rhs[i] = tt
        fastest = 0.0
        for i in range(n):
            fastest = max(fastest, abs(rhs[i] - t[i]))
            t[i] = rhs[i]
        for i in range(first, n):
            t_max[i] = max(t_max[i], t[i])
        s[S_HEAT_IN] += heat + heat_u - out_energy
        # Stage 6: the base lifts, and both faces brown, at their wall temperatures.
        flux = g[first - 1] * (t[first - 1] - t[first])
        boils = s[S_LIFT] > 0.0
        if not boils:
            mean = 0.0
            rest = CONTACT_LAYER
            for i in range(first, first + nf):
                part = min(rest, mass_r[i])
                mean += part * t[i]
                rest -= part
                if rest <= 0.0:
                    break
            boils = mean >= CONTACT_LAYER * (near_boiling + 21.0)
        if boils:
            s[S_LIFT] += dt_use * max(0.0, flux)
        wall = t[first] + max(0.0, flux * half[first])
        s[S_WALL_BASE] = wall
        a_w = max(q[Q_AW_FLOOR], _activity(table, x[first], t[first]))
        end = q[Q_L_END_BASE]
        s[S_L_BASE] = end + (s[S_L_BASE] - end) * math.exp(-dt_use * browning_rate(wall, a_w, q[Q_BROWN_BASE], q[Q_K_MAX]))
        wall = t[top] + max(0.0, (heat - dried * LATENT) / dt_use * half_up[top])
        wall = min(wall, t[top] + 60.0)
        s[S_WALL_TOP] = wall
        a_w = max(q[Q_AW_FLOOR], _activity(table, x[top], t[top]))
        end = q[Q_L_END_TOP]
        s[S_L_TOP] = end + (s[S_L_TOP] - end) * math.exp(-dt_use * browning_rate(wall, a_w, q[Q_BROWN_TOP], q[Q_K_MAX]))
        left -= dt_use
        s[S_STEPS] += 1.0
        # The error control is cheap: the next step aims at a largest change of Q_TOL kelvin.
        target = dt_use * q[Q_TOL] / (fastest + 0.05)
        dt = min(max(target, 0.4 * dt_use, 0.01), 2.0 * dt_use, 5.0)
    s[S_DT] = dt
    return taken_top, taken_under, conv_top, conv_under, CONVERGED if left <= 1e-9 else TOO_MANY_STEPS


@njit(cache=True, nogil=True, inline="always", error_model="numpy", fastmath=FAST)
def _shines_down_w(cav, p):
    """What the elements overhead radiate towards a disk under them, W: a dull one as a ring, a glowing one as a whole."""
    return (1.0 - p[P_CONV_SHARE]) * (p[P_RING_DULL] * cav[RAD_TOP] + p[P_RING_FULL] * cav[RAD_FULL])


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def step_cavity(span, cav, p, u, sinks):
    """Advance the hearth's lumps by `span` seconds.

    sinks: heat in W that food and deck take: radiation top, convection top, radiation under,
    convection under.
    """
    if p[P_HELD] > 0.5:
        return
    steps = math.ceil(span)
    h = span / steps
    fan = u[U_FAN] > 0.5
    h_air = p[P_H_FAN] if fan else p[P_H_STATIC]
    for _ in range(steps):
        # Where in its cycle a thermostat stands at launch nobody knows: its mean duty is used, a
        # proportional band as wide as its hysteresis.
        call = 0.5 + 0.5 * (u[U_SETPOINT] - cav[SENSOR]) / p[P_HYSTERESIS]
        cav[CALLING] = u[U_HEAT] * min(1.0, max(0.0, call))
        on = cav[CALLING]
        full = u[U_FULL] * p[P_FULL_W]
        # A usable top element replaces the static pair while it is on.
        static = on * (1.0 if u[U_FULL] < 0.5 else 0.0)
        bottom = 0.0 if fan else static * p[P_BOTTOM_W]
        upper = 0.0 if fan else static * p[P_TOP_W]
        ring = static * p[P_FAN_W] if fan else 0.0
        if u[U_FULL] > 0.5:
            # The glowing element runs whatever the air says, but for its own duty.
            full *= p[P_FULL_DUTY]
        blend = h / p[P_TAU_ELEMENT]
        cav[RAD_BOTTOM] += blend * (bottom - cav[RAD_BOTTOM])
        cav[RAD_TOP] += blend * (upper - cav[RAD_TOP])
        cav[RAD_FULL] += h / (0.4 * p[P_TAU_ELEMENT]) * (full - cav[RAD_FULL])
        released = cav[RAD_BOTTOM] + cav[RAD_TOP] + cav[RAD_FULL]
        over_air = 0.0
        over_liner = 0.0
        over_food = 0.0
        over_direct = 0.0
        if p[P_OVER_C] > 0.0:
            # A second deck takes the top elements' heat in the food's stead and gives its own.
            over_direct = _shines_down_w(cav, p) * p[P_OVER_TOP_VIEW]
            over_4 = (cav[OVER] + K0) ** 4
            liner_4 = (cav[LINER] + K0) ** 4
            over_liner = EPS_OVER * p[P_OVER_AREA] * (2.0 - p[P_OVER_SEEN]) * SIGMA * (over_4 - liner_4)
            over_air = 2.0 * h_air * p[P_OVER_AREA] * (cav[OVER] - cav[AIR])
            seen_4 = p[P_OVER_SEEN] * over_4 + (1.0 - p[P_OVER_SEEN]) * liner_4
            over_food = p[P_OVER_SEEN] * (sinks[K_RADIANT_TOP] + EPS_OVER * p[P_OVER_AREA] * SIGMA * (over_4 - seen_4))
            cav[OVER] += h / p[P_OVER_C] * (over_direct - over_liner - over_air - over_food)
        to_air = p[P_CONV_SHARE] * released + ring + over_air
        radiant = (1.0 - p[P_CONV_SHARE]) * released
        direct_top = _shines_down_w(cav, p)
        direct_top *= u[U_VIEW_TOP] * u[U_SHIELD] * (1.0 - p[P_OVER_SEEN])
        direct_under = (1.0 - p[P_CONV_SHARE]) * cav[RAD_BOTTOM] * u[U_VIEW_BOTTOM]
        swap_liner = h_air * p[P_A_LINER] * (cav[LINER] - cav[AIR])
        leak = p[P_U_LINER_SKIN] * (cav[LINER] - cav[SKIN])
        loss = p[P_U_LOSS] * (cav[SKIN] - p[P_AMBIENT_C])
        door = u[U_DOOR] * p[P_DOOR_W_K] * (cav[AIR] - p[P_AMBIENT_C])
        cav[AIR] += h / p[P_C_AIR] * (to_air + swap_liner - sinks[K_CONVECTIVE_TOP] - sinks[K_CONVECTIVE_UNDER] - door)
        liner_in = (
            radiant - direct_top - direct_under - over_direct + over_liner - swap_liner - leak - (sinks[K_RADIANT_TOP] - over_food) - sinks[K_RADIANT_UNDER]
        )
        door_rad = u[U_DOOR] * 0.12 * SIGMA * ((cav[LINER] + K0) ** 4 - (p[P_AMBIENT_C] + K0) ** 4)
        cav[LINER] += h / p[P_C_LINER] * (liner_in - door_rad)
        cav[SKIN] += h / p[P_C_SKIN] * (leak - loss)
        cav[SENSOR] += h / p[P_TAU_SENSOR] * (0.7 * cav[AIR] + 0.3 * cav[LINER] - cav[SENSOR])
        cav[DUTY] += h * (bottom + upper + ring + full)


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def boundary(cav, p, u, sector, bc, humid):
    """Fill bc (10,) for a column from the hearth's state."""
    fan = u[U_FAN] > 0.5
    share = 1.0 - p[P_CONV_SHARE]
    if p[P_HELD] > 0.5:
        bc[B_FILM_TOP] = p[P_H_FOOD_STATIC]
        bc[B_AIR_TOP] = cav[AIR]
        bc[B_RADIANT_TOP] = 0.0
        bc[B_VIEW_TOP] = p[P_DOME_C]
        if sector != 1.0:
            bc[B_RADIANT_TOP] = (sector - 1.0) * SIGMA * (p[P_DOME_C] + K0) ** 4
        bc[B_FILM_UNDER] = p[P_H_STATIC]
        bc[B_AIR_UNDER] = cav[AIR]
        bc[B_RADIANT_UNDER] = 0.0
        bc[B_VIEW_UNDER] = p[P_FLOOR_C]
    else:
        bc[B_FILM_TOP] = p[P_H_FOOD_FAN] if fan else p[P_H_FOOD_STATIC]
        # Hot air and a hot ceiling lie over cooler ones, where no fan stirs them.
        hot = cav[LINER] - p[P_AMBIENT_C]
        layer = 0.0 if fan else u[U_LAYER_K] * hot / LAYERED_K
        # Overhead the food sees door glass and cooler walls beside the ceiling.
        view = cav[LINER] - (p[P_COOL_FAN] if fan else p[P_COOL_STATIC]) * hot + layer
        bc[B_AIR_TOP] = cav[AIR] + layer
        direct = _shines_down_w(cav, p) * u[U_VIEW_TOP] / p[P_A_DECK]
        bc[B_RADIANT_TOP] = direct * sector * u[U_SHIELD] * (1.0 - p[P_OVER_SEEN])
        bc[B_VIEW_TOP] = view if u[U_SHIELD] > 0.99 else 0.5 * (view + cav[AIR]) - 20.0
        if p[P_OVER_C] > 0.0 and u[U_SHIELD] > 0.99:
            seen = p[P_OVER_SEEN] * (cav[OVER] + K0) ** 4 + (1.0 - p[P_OVER_SEEN]) * (view + K0) ** 4
            bc[B_VIEW_TOP] = seen**0.25 - K0
        bc[B_FILM_UNDER] = p[P_H_FAN] if fan else p[P_H_STATIC]
        bc[B_AIR_UNDER] = cav[AIR] + layer
        bc[B_RADIANT_UNDER] = share * cav[RAD_BOTTOM] * u[U_VIEW_BOTTOM] / p[P_A_DECK]
        bc[B_VIEW_UNDER] = cav[LINER]
    bc[B_HOB] = u[U_HOB]
    bc[B_VAPOUR] = humid


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def run_bake(times, controls, cav, p, t, x, t_max, s, q, m_dry, mass_r, c_solid, loosen, table, out, work):
    """March all columns and the hearth over `times` (k+1,), controls (k, CONTROL_SIZE).

    t, x, t_max, m_dry, mass_r, c_solid, loosen: (columns, nodes); s: (columns, COLUMN_STATE);
    q: (columns, COLUMN_PARAMS). out: (k+1, columns, RECORD_SIZE), the R_ slots;
    row 0 must be filled by the caller. Everything is advanced in place, so a bake can be stopped
    at any grid time and continued with identical results. Returns how it ended.
    """
    columns = t.shape[0]
    bc = np.zeros(BOUNDARY_SIZE)
    sinks = np.zeros(SINKS)
    for k in range(times.shape[0] - 1):
        span = times[k + 1] - times[k]
        u = controls[k]
        sinks[:] = 0.0
        for j in range(columns):
            boundary(cav, p, u, 1.0 + u[U_SECTOR] * q[j, Q_UNEVEN], bc, 3000.0)
            bc[B_RADIANT_TOP] *= q[j, Q_VIEW_FOOD]
            top_j, under_j, ctop, cunder, ended = advance_column(
                span, t[j], x[j], t_max[j], s[j], q[j], m_dry[j], mass_r[j], c_solid[j], loosen[j], bc, table, work
            )
            if ended != CONVERGED:
                return ended
            share = q[j, Q_AREA_SHARE]
            direct_top = q[j, Q_EPS_TOP] * bc[B_RADIANT_TOP] * span
            direct_under = q[j, Q_EPS_UNDER] * bc[B_RADIANT_UNDER] * span
            sinks[K_RADIANT_TOP] += share * p[P_A_FOOD] * (top_j - ctop - direct_top) / span
            sinks[K_CONVECTIVE_TOP] += share * p[P_A_FOOD] * ctop / span
            sinks[K_RADIANT_UNDER] += share * p[P_A_DECK] * (under_j - cunder - direct_under - bc[B_HOB] * span) / span
            sinks[K_CONVECTIVE_UNDER] += share * p[P_A_DECK] * cunder / span
            record(out[k + 1, j], t[j], x[j], s[j], q[j], m_dry[j], mass_r[j], loosen[j])
        step_cavity(span, cav, p, u, sinks)
        out[k + 1, 0, R_AIR] = cav[AIR]
        out[k + 1, 0, R_LINER] = cav[LINER]
    return CONVERGED


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def record(row, t, x, s, q, m_dry, mass, loosen):
    """Write the reported quantities of one column into row (RECORD_SIZE,)."""
    nd = int(q[Q_DECK_CELLS])
    first = nd + int(q[Q_PAN])
    nf = int(q[Q_DOUGH])
    row[R_FACE] = t[first - 1] if first > 0 else t[0]
    if nd > 0:
        row[R_DECK] = t[nd - 1]
    else:
        row[R_DECK] = row[R_FACE]
    row[R_BASE_WALL] = s[S_WALL_BASE]
    row[R_BASE_L] = s[S_L_BASE]
    row[R_TOP_L] = s[S_L_TOP]
    # The core is the coldest layer, not the coldest cell: it is the same on any mesh.
    cold = 1e9
    layer = 0.0
    heat = 0.0
    low = first
    for i in range(first, first + nf):
        layer += mass[i]
        heat += mass[i] * t[i]
        while layer - mass[low] >= CORE_LAYER:
            layer -= mass[low]
            heat -= mass[low] * t[low]
            low += 1
        if layer >= CORE_LAYER or i == first + nf - 1:
            cold = min(cold, heat / layer)
    row[R_CORE] = cold
    row[R_LOST] = s[S_LOST]
    row[R_TOP_WALL] = s[S_WALL_TOP]
    dry = 0.0
    for i in range(first, first + nf):
        v = q[Q_V0] + (q[Q_V1] - q[Q_V0]) * loosen[i]
        if x[i] < 0.15:
            dry += mass[i] * v
        else:
            # Part of the cell that straddles the threshold.
            if i > first and x[i - 1] < 0.15:
                dry += mass[i] * v * 0.5 * max(0.0, 1.0 - (x[i] - 0.15) / 0.3)
            break
    row[R_DRY_MM] = dry
    # Water under the sauce beyond what a moist crumb holds.
    wet = 0.0
    if q[Q_TOPPING] > 0.0:
        for i in range(first + nf - 1, first - 1, -1):
            excess = x[i] - GUMMY * q[Q_X0]
            if excess <= 0.0:
                break
            wet += excess * m_dry[i]
    row[R_GUMMY] = wet
    # The sauce next to the dough; a column without has none to wait for.
    row[R_SAUCE] = t[first + nf] if q[Q_TOPPING] > 0.0 else 1000.0


@njit(cache=True, nogil=True, inline="always", error_model="numpy")
def _distance(base_l, rim_l, cheese_l, aim):
    """How far a crust is from the wanted one, weighted, and the E_ code of the part that is farthest off."""
    worst = 0.0
    total = 0.0
    which = E_BASE
    for part in range(3):
        value = base_l if part == 0 else rim_l if part == 1 else cheese_l
        wanted = aim[A_BASE + part]
        # Wanted pale, it may be anything paler.
        off = min(0.0, value - aim[A_PALE]) if wanted > aim[A_PALE] else value - wanted
        off /= aim[A_STEP]
        weight = aim[A_WEIGHT_BASE + part]
        if part == 2 and off > 0.0:
            weight *= 0.25
        share = weight * off * off
        total += share
        if share > worst:
            worst = share
            which = E_BASE + part
    return total, which


@njit(cache=True, nogil=True, error_model="numpy")
def nearest_pull(t_s, base_l, rim_l, hot_rim_l, cheese_l, top_c, core_c, sauce_c, loss_pct, aim):
    """The moment nearest the wanted crust, of those that are baked through and before anything burns.

    All (n,) but aim, the A_ slots. Returns its index, how it ended (the E_ codes), the distance there, the index from
    which something burns (n: nothing does), and the distances before and after it (-1: no such moment, or not allowed).
    """
    n = t_s.shape[0]
    burns = n
    set_from = n
    best = -1
    distance = 0.0
    ended = E_NOT_DONE
    before = -1.0
    after = -1.0
    for i in range(n):
        if base_l[i] < aim[A_BURNT_BASE] or hot_rim_l[i] < aim[A_BURNT_RIM] or cheese_l[i] < aim[A_BURNT_CHEESE]:
            burns = i
            break
    latest = 0.0
    for i in range(burns):
        if set_from == n:
            hot = core_c[i] >= aim[A_CORE] and sauce_c[i] >= aim[A_HOT] and loss_pct[i] >= aim[A_SET_LOSS]
            if hot and aim[A_TOPPED] > 0.0:
                hot = t_s[i] > aim[A_TOPPED] + 5.0 and top_c[i] >= aim[A_MELTED]
            if not hot:
                continue
            set_from = i
        total, which = _distance(base_l[i], rim_l[i], cheese_l[i], aim)
        if best < 0 or total < distance:
            before = latest if i > set_from else -1.0
            after = -1.0
            best = i
            distance = total
            ended = E_CORE if i == set_from and i > 0 else which
        elif i == best + 1:
            after = total
        latest = total
    if best < 0 or best == n - 1:
        best = max(0, burns - 1)
        ended = E_NOT_DONE if burns == n else E_BURNS if core_c[best] >= aim[A_CORE] and sauce_c[best] >= aim[A_HOT] else E_RAW
        distance, _ = _distance(base_l[best], rim_l[best], cheese_l[best], aim)
    return best, ended, distance, burns, before, after


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def run_preheat(times, controls, cav, p, t, c_solid, half, eps, face, out):
    """Heat an empty deck: t, c_solid, half (cells,) through the thickness, bottom to top.

    out: (k+1, 5): cell `face`, underside, air, liner, uppermost cell (C). Fully implicit steps.
    """
    n = t.shape[0]
    link = np.zeros(n)
    di = np.zeros(n)
    rhs = np.zeros(n)
    bc = np.zeros(BOUNDARY_SIZE)
    sinks = np.zeros(SINKS)
    for k in range(times.shape[0] - 1):
        span = times[k + 1] - times[k]
        u = controls[k]
        steps = max(1, math.ceil(span / 2.0))
        h = span / steps
        for _ in range(steps):
            boundary(cav, p, u, 1.0, bc, 0.0)
            _conduction_rows(h, t, c_solid, half, link, di, rhs)
            tt = t[n - 1] + K0
            tb = t[0] + K0
            vt = bc[B_VIEW_TOP] + K0
            vb = bc[B_VIEW_UNDER] + K0
            hr_t = eps * SIGMA * (tt * tt + vt * vt) * (tt + vt)
            hr_b = eps * SIGMA * (tb * tb + vb * vb) * (tb + vb)
            h_t = p[P_H_FAN] if u[U_FAN] > 0.5 else p[P_H_STATIC]
            di[n - 1] += hr_t + h_t
            rhs[n - 1] += hr_t * bc[B_VIEW_TOP] + h_t * bc[B_AIR_TOP] + eps * bc[B_RADIANT_TOP]
            di[0] += hr_b + bc[B_FILM_UNDER]
            rhs[0] += hr_b * bc[B_VIEW_UNDER] + bc[B_FILM_UNDER] * bc[B_AIR_UNDER] + eps * bc[B_RADIANT_UNDER] + bc[B_HOB]
            _solve_symmetric(0, n, link, di, rhs, t)
            area = p[P_A_DECK]
            sinks[K_RADIANT_TOP] = area * hr_t * (bc[B_VIEW_TOP] - t[n - 1]) - area * (1.0 - eps) * bc[B_RADIANT_TOP]
            sinks[K_CONVECTIVE_TOP] = area * h_t * (bc[B_AIR_TOP] - t[n - 1])
            sinks[K_RADIANT_UNDER] = area * hr_b * (bc[B_VIEW_UNDER] - t[0]) - area * (1.0 - eps) * bc[B_RADIANT_UNDER]
            sinks[K_CONVECTIVE_UNDER] = area * bc[B_FILM_UNDER] * (bc[B_AIR_UNDER] - t[0])
            step_cavity(h, cav, p, u, sinks)
        out[k + 1, 0] = t[face]
        out[k + 1, 4] = t[n - 1]
        out[k + 1, 1] = t[0]
        out[k + 1, 2] = cav[AIR]
        out[k + 1, 3] = cav[LINER]


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def conduct_slab(times, t, c_solid, half, h_left, ambient_left_c, h_right, ambient_right_c, out):
    """Dry conduction through a stack with convection on both faces: for verification.

    t, c_solid, half: (cells,); out: (len(times), cells). Fully implicit.
    """
    n = t.shape[0]
    link = np.zeros(n)
    di = np.zeros(n)
    rhs = np.zeros(n)
    out[0, :] = t
    for k in range(times.shape[0] - 1):
        h = times[k + 1] - times[k]
        _conduction_rows(h, t, c_solid, half, link, di, rhs)
        g_l = 1.0 / (1.0 / h_left + half[0]) if h_left > 0.0 else 0.0
        g_r = 1.0 / (1.0 / h_right + half[n - 1]) if h_right > 0.0 else 0.0
        di[0] += g_l
        rhs[0] += g_l * ambient_left_c
        di[n - 1] += g_r
        rhs[n - 1] += g_r * ambient_right_c
        _solve_symmetric(0, n, link, di, rhs, t)
        out[k + 1, :] = t
