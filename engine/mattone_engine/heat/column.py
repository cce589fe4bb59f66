"""The solver kernels: a bake as a few coupled one-dimensional columns inside a hearth.

All compiled code lives in this one file, because a compiled callee edited in another file
would leave a stale cache behind. Everything here is plain arrays; the names of their slots are
the constants below, and `heat.environment` and `heat.run` fill them.

A column is a stack of nodes from the bottom of the surface to the top of the food. Each node
has a temperature; dough and topping nodes also have a moisture X (kg water / kg dry). A step

1. solves the implicit heat balance with the boiling kink by Newton iteration (Thomas solves),
2. computes the fluxes from the solved temperatures and moves enthalpy and water by them,
3. flashes every node: what exceeds the sorption moisture at ambient pressure leaves as steam.

Loops over the cells of a column work on rows of the stack (see `_stack_row`), which makes them vector loops; what is
looked up in a table is fetched one cell after the other.

Because 2 moves the same flux out of one node and into the next, energy and water close to
rounding whatever the Newton iteration left over.

Sources: sorption, Oswin form of Lind & Rask (1991); vapour heat pipe, de Vries (1958);
browning, Purlis & Salvadori (2009); saturation pressure, Wagner & Pruss (2002).
"""

from __future__ import annotations

import math
import operator
from typing import Any, NamedTuple

import numpy as np
from llvmlite import ir
from numba import njit, types
from numba.core import cgutils
from numba.extending import intrinsic, overload

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
SMALLEST, LARGEST = 1e-60, 1e60  # between these a leading minor stays
CALM = 0.15  # how much a change counts, for the length of a step, where nothing boils
CONTACT_LAYER = 0.20  # kg/m2 of dough that must boil before the base begins to lift

# What water does over temperature is smooth: polynomials of (C - AIR_MID_C) / AIR_HALF_K, between AIR_MID_C
# -/+ AIR_HALF_K; of the eighth roots for the first two.
AIR_MID_C = 155.0
AIR_HALF_K = 175.0
AIR_DEGREE = 6
AIR_PSAT = 0  # Pa
AIR_PIPE = 1  # heat carried by free vapour diffusion at saturation, W/mK
AIR_SORB = 2  # 1 / Oswin scale, kg/kg

# Rows that bend sharply, with fine steps.
ROW_XQ = 0  # sorption moisture at a_w = p_ambient / p_sat, over T_LO + i * T_STEP in C
ROW_ACTIVITY = 1  # water activity, over moisture / Oswin scale
ROW_BOIL = 2  # C at which a moisture begins to boil off, over its square root
ROW_COUNT = 14401
T_LO = -20.0
T_STEP = 0.05
T_INV = 1.0 / T_STEP
U_STEP = 0.01
U_INV = 1.0 / U_STEP
V_STEP = 0.0004
V_INV = 1.0 / V_STEP


class Tables(NamedTuple):
    """What water does at one ambient pressure: air (3, AIR_DEGREE + 1), lowest power first; rows (3, ROW_COUNT)."""

    air: np.ndarray
    rows: np.ndarray


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
    P_FULL_STOP_C,
    P_OVER_BOTTOM_VIEW,
    P_UNDER_SEEN,
) = range(37)
CAVITY_PARAMS = 37

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
    Q_WALL,
) = range(31)
COLUMN_PARAMS = 31

# Column scalars that evolve.
S_L_BASE, S_L_TOP, S_LIFT, S_LOST, S_HEAT_IN, S_DT, S_STEPS, S_WALL_BASE, S_WALL_TOP = range(9)
COLUMN_STATE = 9

# What was looked up for every cell.
W_WET, W_WET_NEXT, W_BOIL, W_BOIL_NEXT, W_STAYS, W_STAYS_SLOPE = range(6)
WORK_ROWS = 6
# Most nodes a column may have: 19 cache lines, an odd number, so that rows do not fall on one another.
MOST_NODES = 152

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

# What a crust is wanted to be, and its bounds: L*, weights, C, %, s; A_SET_LOST, of one load, kg/m2; A_TIME_: how much each part's time counts.
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
    A_SET_LOST,
    A_TIME_BASE,
    A_TIME_RIM,
    A_TIME_CHEESE,
    A_TOO_DARK,
    A_TOO_PALE,
) = range(22)
AIM_SIZE = 22
# What a crust is not by the end of a bake, it is taken to become at the pace of that end, but within so many times as long.
LATEST_REACH = 2.0
# No part of a crust is there sooner than this, s: a share of ln(time).
SOONEST_S = 5.0
# What holds a crust back at its pull, or why there is none.
E_BASE, E_RIM, E_CHEESE, E_CORE, E_RAW, E_BURNS, E_NOT_DONE = range(7)

# Heat that food and deck take from the hearth, W.
K_RADIANT_TOP, K_CONVECTIVE_TOP, K_RADIANT_UNDER, K_CONVECTIVE_UNDER = range(4)
SINKS = 4

# How an advance ended.
CONVERGED, TOO_MANY_STEPS, NO_COLUMN = range(3)
MOST_STEPS = 200000
# A step that does not settle is halved down to this, s.
SHORTEST_STEP_S = 1e-4
# What a step that settles may still be off by at its last turn, K.
MOST_SWING_K = 0.5


# Rows as bare pointers: the compiler sees that rows of its own on the stack lie apart from all else, and makes the
# loops over them four cells wide; nothing is counted, nothing wrapped around.
_POINTER = types.CPointer(types.float64)
_DOUBLE = ir.DoubleType()


def _stack_row_code(typing_context):
    """A row of MOST_NODES numbers that lives as long as the function that asks for it."""

    def generate(context, builder, signature, arguments):
        return cgutils.alloca_once(builder, _DOUBLE, size=MOST_NODES)

    return _POINTER(), generate


_stack_row: Any = intrinsic(_stack_row_code)


def _row_code(typing_context, array, j):
    """Row j of a contiguous array of two dimensions."""

    def generate(context, builder, signature, arguments):
        rows = context.make_array(signature.args[0])(context, builder, arguments[0])
        columns = builder.extract_value(rows.shape, 1)
        return builder.gep(rows.data, [builder.mul(arguments[1], columns)], inbounds=True, source_etype=_DOUBLE)

    return _POINTER(array, types.intp), generate


_row: Any = intrinsic(_row_code)


def _number_at_code(typing_context, row, i):
    def generate(context, builder, signature, arguments):
        return builder.load(builder.gep(arguments[0], [arguments[1]], inbounds=True, source_etype=_DOUBLE), typ=_DOUBLE)

    return types.float64(_POINTER, types.intp), generate


_number_at: Any = intrinsic(_number_at_code)


def _put_at_code(typing_context, row, i, number):
    def generate(context, builder, signature, arguments):
        builder.store(arguments[2], builder.gep(arguments[0], [arguments[1]], inbounds=True, source_etype=_DOUBLE))
        return context.get_dummy_value()

    return types.void(_POINTER, types.intp, types.float64), generate


_put_at: Any = intrinsic(_put_at_code)


@overload(operator.getitem, inline="never")
def _row_getitem(row, i):
    if row == _POINTER:
        return lambda row, i: _number_at(row, i)
    return None


@overload(operator.setitem, inline="never")
def _row_setitem(row, i, number):
    if row == _POINTER:
        return lambda row, i, number: _put_at(row, i, number)
    return None


@njit(cache=True, forceinline=True, error_model="numpy", fastmath=FAST)
def _look(row, f):
    """A row of the tables at f steps from its beginning, and its slope a step."""
    f = min(max(f, 0.0), ROW_COUNT - 1.001)
    whole = int(f)
    low = row[whole]
    slope = row[whole + 1] - low
    return low + (f - whole) * slope, slope


@njit(cache=True, forceinline=True, error_model="numpy", fastmath=FAST)
def _boiling_moisture(stays, t_c):
    """Moisture that stays at t_c and ambient pressure, and its slope, 1/K; stays: the row ROW_XQ."""
    found, slope = _look(stays, (t_c - T_LO) * T_INV)
    return found, slope * T_INV


@njit(cache=True, forceinline=True, error_model="numpy", fastmath=FAST)
def _air_at(t_c):
    """Where a temperature stands in the polynomials over temperature."""
    return min(max((t_c - AIR_MID_C) * (1.0 / AIR_HALF_K), -1.0), 1.0)


@njit(cache=True, forceinline=True, error_model="numpy", fastmath=FAST)
def _smooth(row, u):
    """A polynomial at u, its coefficients lowest power first."""
    found = row[AIR_DEGREE]
    for k in range(AIR_DEGREE):
        found = found * u + row[AIR_DEGREE - 1 - k]
    return found


@njit(cache=True, forceinline=True, error_model="numpy", fastmath=FAST)
def _eighth_power(y):
    y *= y
    y *= y
    return y * y


@njit(cache=True, forceinline=True, error_model="numpy", fastmath=FAST)
def _saturation_pa(row, t_c):
    """Saturation pressure (Pa) and its slope (Pa/K); row: AIR_PSAT."""
    u = _air_at(t_c)
    root = _smooth(row, u)
    rise = 0.0
    for k in range(AIR_DEGREE):
        rise = rise * u + (AIR_DEGREE - k) * row[AIR_DEGREE - k]
    psat = _eighth_power(root)
    return psat, 8.0 * psat / root * rise * (1.0 / AIR_HALF_K)


@njit(cache=True, forceinline=True, error_model="numpy", fastmath=FAST)
def _activity(sorb_of, activity_of, x, t_c):
    """Water activity of moisture x at t_c; the rows AIR_SORB and ROW_ACTIVITY."""
    found, _ = _look(activity_of, x * _smooth(sorb_of, _air_at(t_c)) * U_INV)
    return found


@njit(cache=True, forceinline=True, error_model="numpy", fastmath=FAST)
def _decay(z):
    """exp(-z), z >= 0; a small one, as most steps have, by its series to 1e-6."""
    return 1.0 - z * (1.0 - z * (0.5 - z * (1.0 / 6.0))) if z < 0.05 else math.exp(-z)


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def browning_rate(t_c, a_w, multiplier, k_max):
    """First-order rate of L* (1/s), after Purlis & Salvadori (2009), with a plateau k_max."""
    t_k = t_c + K0
    k = (7.9233e6 + 2.7397e6 / a_w) * math.exp(-(8.7015e3 + 49.4738 / a_w) / t_k) / 60.0
    k *= multiplier
    return k * k_max / (k + k_max)


@njit(cache=True, forceinline=True, error_model="numpy", fastmath=FAST)
def _largest(values, n):
    """The largest of the first n values, found in four chains side by side."""
    a = b = c = d = 0.0
    whole = n // 4 * 4
    for i in range(0, whole, 4):
        a = max(a, values[i])
        b = max(b, values[i + 1])
        c = max(c, values[i + 2])
        d = max(d, values[i + 3])
    for i in range(whole, n):
        a = max(a, values[i])
    return max(max(a, b), max(c, d))


@njit(cache=True, nogil=True, inline="always", error_model="numpy", fastmath=FAST)
def _solve_symmetric(begin, end, link, di, rhs, solution):
    """Solve di T[i] - link[i-1] T[i-1] - link[i] T[i+1] = rhs over begin <= i < end; di and rhs are used up.

    Eliminates from both ends to the middle by leading minors p, with p[i] = di p[i-1] - link[i-1]^2 p[i-2]: the long
    chains multiply, and no division waits for another. Minors are scaled by the middle's di, and again before they
    leave what a number can hold. What is left of a row is T[i] = rhs[i] + di[i] T[i+1] below the middle, T[i-1] above.
    """
    above = (end - 1 - begin) // 2
    mid = end - 1 - above
    last = end - 1
    scale = 1.0 / di[mid]
    low = high = 1.0
    low_before = high_before = low_sum = high_sum = low_link = high_link = 0.0
    for k in range(above):
        i = begin + k
        minor = scale * di[i] * low - low_link * low_link * low_before
        low_sum = scale * rhs[i] * low + low_link * low_sum
        low_link = scale * link[i]
        share = 1.0 / minor
        rhs[i] = low_sum * share
        di[i] = low_link * low * share
        low_before = low
        low = minor
        i = last - k
        minor = scale * di[i] * high - high_link * high_link * high_before
        high_sum = scale * rhs[i] * high + high_link * high_sum
        high_link = scale * link[i - 1]
        share = 1.0 / minor
        rhs[i] = high_sum * share
        di[i] = high_link * high * share
        high_before = high
        high = minor
        if k % 8 == 7 and not (SMALLEST < low < LARGEST and SMALLEST < high < LARGEST):
            low_before /= low
            low_sum /= low
            low = 1.0
            high_before /= high
            high_sum /= high
            high = 1.0
    if mid - begin > above:
        i = mid - 1
        minor = scale * di[i] * low - low_link * low_link * low_before
        low_sum = scale * rhs[i] * low + low_link * low_sum
        low_link = scale * link[i]
        share = 1.0 / minor
        rhs[i] = low_sum * share
        di[i] = low_link * low * share
        low_before = low
        low = minor
    # The middle's row, over both sides' minors.
    minor = low * high - low_link * low_link * low_before * high - high_link * high_link * high_before * low
    found = (scale * rhs[mid] * low * high + low_link * low_sum * high + high_link * high_sum * low) / minor
    solution[mid] = found
    below = found
    for k in range(1, above + 1):
        i = mid - k
        below = rhs[i] + di[i] * below
        solution[i] = below
        i = mid + k
        found = rhs[i] + di[i] * found
        solution[i] = found
    if mid - begin > above:
        solution[begin] = rhs[begin] + di[begin] * below


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
def advance_column(j, span, t_all, x_all, t_max_all, s_all, q_all, m_dry_all, mass_all, c_all, loosen_all, bc, air, rows, work):
    """Advance one column by `span` seconds under a constant boundary.

    t, x, t_max, m_dry, mass_r, c_solid, loosen: shape (nodes,). bc: the B_ slots. Returns heat taken from above and below,
    J/m2, the convective part of each, and how it ended. Its six stages stand in one loop: each in a
    function of its own cost a fiftieth of every bake.
    """
    q = _row(q_all, j)
    nd = int(q[Q_DECK_CELLS])
    npan = int(q[Q_PAN])
    first = nd + npan
    nf = int(q[Q_DOUGH])
    after = first + nf
    n = after + int(q[Q_TOPPING])
    if not (0 <= nd <= first and 0 < first < after <= n <= MOST_NODES):
        return 0.0, 0.0, 0.0, 0.0, NO_COLUMN  # never so: a row on the stack holds no more
    m_dry = _row(m_dry_all, j)
    mass_r = _row(mass_all, j)
    c_solid = _row(c_all, j)
    loosen = _row(loosen_all, j)
    psat_of = _row(air, AIR_PSAT)
    pipe_of = _row(air, AIR_PIPE)
    sorb_of = _row(air, AIR_SORB)
    stays_of = _row(rows, ROW_XQ)
    activity_of = _row(rows, ROW_ACTIVITY)
    boils_of = _row(rows, ROW_BOIL)
    # What is looked up is put in rows of the caller's, one cell after the other: the compiler would gather four at a
    # time, which takes longer on many processors.
    wet_low = _row(work, W_WET)
    wet_high = _row(work, W_WET_NEXT)
    boil_low = _row(work, W_BOIL)
    boil_high = _row(work, W_BOIL_NEXT)
    stays = _row(work, W_STAYS)
    stays_slope = _row(work, W_STAYS_SLOPE)
    # What changes is worked on here, and put back at the end.
    t_there = _row(t_all, j)
    x_there = _row(x_all, j)
    t_max_there = _row(t_max_all, j)
    s_there = _row(s_all, j)
    t = _stack_row()
    x = _stack_row()
    t_max = _stack_row()
    s = _stack_row()
    c = _stack_row()
    g = _stack_row()
    pipe = _stack_row()
    link = _stack_row()
    di = _stack_row()
    rhs = _stack_row()
    tn = _stack_row()
    half = _stack_row()
    half_up = _stack_row()
    e = _stack_row()
    carried = _stack_row()
    across = _stack_row()
    kink = _stack_row()
    side = _stack_row()
    di_lin = _stack_row()
    rhs_lin = _stack_row()
    flow = _stack_row()
    moved = _stack_row()
    held = _stack_row()
    cell = _stack_row()
    b_c = _stack_row()
    b_e = _stack_row()
    b_heat = _stack_row()
    b_x = _stack_row()
    b_latent = _stack_row()
    psat = _stack_row()
    free = _stack_row()
    wet_at = _stack_row()
    wet_part = _stack_row()
    boil_at = _stack_row()
    boil_part = _stack_row()
    a_w = _stack_row()
    for i in range(n):
        t[i] = t_there[i]
        x[i] = x_there[i]
        t_max[i] = t_max_there[i]
    for i in range(COLUMN_STATE):
        s[i] = s_there[i]
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
    inv_k_dry = 1.0 / q[Q_K_DRY]
    inv_k_wet = 1.0 / q[Q_K_WET]
    inv_k_topping = 1.0 / q[Q_K_TOPPING]
    v0 = q[Q_V0]
    v_span = q[Q_V1] - v0
    # Dough above this cell dries towards the top: the upper half of a bare column.
    turn = after if n > after else first + nf // 2
    sky = bc[B_RADIANT_TOP] + SIGMA * (bc[B_VIEW_TOP] + K0) ** 4
    if npan > 0:
        # A part of what a rim faces is the pan's wall, about as hot as its floor.
        sky += q[Q_WALL] * (SIGMA * (t[nd] + K0) ** 4 - sky)
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
        for i in range(first, after):
            v = v0 + v_span * min(1.0, max(0.0, (t_max[i] - 35.0) * 0.02)) * loosen[i]
            dx = mass_r[i] * v * 1e-3
            # A cell dries from its outer side: a dry layer with the front behind it, in series.
            dry = max(0.0, 1.0 - x[i] * inv_x0)
            path = dx * (v + 0.3) * (1.0 / 1.5)
            # Once little is left the front has passed, and the cell's middle is its middle again.
            passed = 0.5 * min(1.0, max(0.0, 4.0 * dry - 2.8))
            inner = 0.5 * path * (1.0 - dry) * inv_k_wet
            rest = path * dry * inv_k_dry
            half[i] = inner + (1.0 - passed) * rest
            half_up[i] = inner + passed * rest
            carried[i] = 2.0 * q[Q_PIPE]
            across[i] = dx
        for i in range(turn, after):
            outer = half[i]
            half[i] = half_up[i]
            half_up[i] = outer
        for i in range(after, n):
            half[i] = 0.5 * mass_r[i] * 1e-3 * inv_k_topping
            half_up[i] = half[i]
            carried[i] = 0.5 * q[Q_PIPE]
            across[i] = mass_r[i] * 1e-3
        for i in range(first, n):
            u = _air_at(t[i])
            psat[i] = _eighth_power(_smooth(psat_of, u))
            free[i] = _eighth_power(_smooth(pipe_of, u))
            f = min(max(x[i] * _smooth(sorb_of, u) * U_INV, 0.0), ROW_COUNT - 1.001)
            wet_at[i] = math.floor(f)
            wet_part[i] = f - wet_at[i]
            f = min(math.sqrt(max(0.0, x[i])) * V_INV, ROW_COUNT - 1.001)
            boil_at[i] = math.floor(f)
            boil_part[i] = f - boil_at[i]
        for i in range(first, n):
            k = int(wet_at[i])
            wet_low[i] = activity_of[k]
            wet_high[i] = activity_of[k + 1]
            k = int(boil_at[i])
            boil_low[i] = boils_of[k]
            boil_high[i] = boils_of[k + 1]
        for i in range(first, n):
            a_w[i] = wet_low[i] + wet_part[i] * (wet_high[i] - wet_low[i])
            held[i] = m_dry[i] * x[i]
            c[i] = m_dry[i] * C_DRY + C_WATER * held[i]
            p_v = min(a_w[i] * psat[i], 0.9 * p_amb)
            moist = p_amb * a_w[i] if t[i] < 105.0 else 0.0
            carried[i] *= free[i] * moist
            across[i] *= p_amb - p_v
            # Far below boiling the exact kink cannot matter to this step.
            boils_at = boil_low[i] + boil_part[i] * (boil_high[i] - boil_low[i])
            kink[i] = boils_at if t[i] > near_boiling else near_boiling + 10.0
            side[i] = 1.0 if t[i] > kink[i] else 0.0
        # Stage 2: what links the cells: contact, conduction, vapour.
        # The base lifts on the steam it makes: by the heat that went in since its layer boiled.
        wet = _decay(s[S_LIFT] / q[Q_LIFT])
        h_c = q[Q_H_GAP] + (q[Q_H_WET] - q[Q_H_GAP]) * wet
        tm = 0.5 * (t[first - 1] + t[first]) + K0
        h_c += 4.0 * SIGMA * 0.85 * tm * tm * tm
        for i in range(n - 1):
            g[i] = half_up[i] + half[i + 1]
        g[first - 1] += 1.0 / h_c + q[Q_R_PARCHMENT]
        if npan == 1 and nd > 0:
            g[nd - 1] += 1.0 / q[Q_H_PAN_DECK]
        for i in range(first):
            g[i] = 1.0 / g[i]
        spare = 0.45 * LATENT / dt_use
        # Vapour flows in parallel with conduction, and only between two moist cells: half of either cell in series,
        # as carried / across.
        for i in range(first, n - 1):
            along = carried[i] * carried[i + 1]
            over = carried[i] * across[i + 1] + carried[i + 1] * across[i] + 1e-30
            # No more than the giving cell can spare at the difference the step starts with.
            fall = t[i] - t[i + 1]
            giving = spare * (held[i] if fall > 0.0 else held[i + 1])
            apart = abs(fall) + 0.2
            limited = along * apart > giving * over
            along = giving if limited else along
            over = apart if limited else over
            along *= g[i]
            pipe[i] = along / (over + along)
            g[i] = (over + along) / (over * g[i])
        for i in range(n - 1):
            link[i] = dt_use * g[i]
        # The linear part of the rows; radiation from below at the slope of the step's start.
        for i in range(n):
            rhs_lin[i] = c[i] * t[i]
            tn[i] = t[i]
        di_lin[0] = c[0] + link[0]
        for i in range(1, top):
            di_lin[i] = c[i] + (link[i - 1] + link[i])
        di_lin[top] = c[top] + link[top - 1]
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
        aw_top = a_w[top]
        water_top = m_dry[top] * x[top]
        # Stage 3: Newton on the boiling kink.
        swing = 0.0
        for _it in range(12):
            for i in range(first, n):
                if side[i] > 0.5:
                    stays[i], stays_slope[i] = _boiling_moisture(stays_of, tn[i])
            for i in range(first, n):
                latent = LATENT * m_dry[i] * side[i]
                di[i] = di_lin[i] - latent * stays_slope[i]
                rhs[i] = rhs_lin[i] - latent * (max(0.0, x[i] - stays[i]) + stays_slope[i] * tn[i])
            tk = tn[top] + K0
            p_top, dp_top = _saturation_pa(psat_of, tn[top])
            rho = M_WATER / (R_GAS * tk)
            p_s = aw_top * p_top
            dp_s = aw_top * dp_top
            if p_s > p_amb:
                p_s = p_amb
                dp_s = 0.0
            w = h_m * rho * max(0.0, p_s - bc[B_VAPOUR])
            # A cell dries in proportion to what it still holds: implicit, so never below nothing.
            kept = water_top / (water_top + dt_use * w + 1e-30)
            w *= kept
            dw = h_m * rho * dp_s * kept * kept
            slope = 4.0 * q[Q_EPS_TOP] * SIGMA * tk * tk * tk + bc[B_FILM_TOP] + LATENT * dw
            net = q[Q_EPS_TOP] * (sky - SIGMA * tk * tk * tk * tk) + bc[B_FILM_TOP] * (bc[B_AIR_TOP] - tn[top]) - LATENT * w
            rhs[top] += dt_use * (net + slope * tn[top])
            di[top] += dt_use * slope
            _solve_symmetric(first, n, link, di, rhs, rhs)
            unsettled = 0
            swing = 0.0
            face = 1.0 - side[top]
            top_was = tn[top]
            for i in range(first, n):
                old = tn[i]
                new = min(max(rhs[i], old - 40.0), old + 40.0)
                # Only boiling cells and the face are not linear: the others are right at once.
                off = abs(new - old) if side[i] > 0.5 or new != rhs[i] else 0.0
                # Newton may not jump the boiling kink: it stops there and changes slope.
                up = side[i] < 0.5 and new > kink[i]
                down = side[i] > 0.5 and new < kink[i]
                leaves = down and old <= kink[i] + 1e-9
                new = kink[i] if up or (down and not leaves) else new
                side[i] = 1.0 if up else 0.0 if leaves else side[i]
                unsettled += 1 if off >= 0.2 or up or down else 0
                swing = max(swing, abs(rhs[i] - old))
                tn[i] = new
            unsettled += 1 if face > 0.5 and abs(tn[top] - top_was) >= 1.0 else 0
            if unsettled == 0:
                break
        # Rows that do not settle would take from a thin face many times the heat that it holds. Nothing has moved yet:
        # the step is tried again at half its length.
        if unsettled > 0 and swing > MOST_SWING_K and dt_use > SHORTEST_STEP_S:
            dt = 0.5 * dt_use
            continue
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
            m = min(max(through * (1.0 / LATENT), -0.45 * held[i + 1]), 0.45 * held[i])
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
        p_top, _ = _saturation_pa(psat_of, tn[top])
        w = h_m * M_WATER / (R_GAS * tk) * max(0.0, min(aw_top * p_top, p_amb) - bc[B_VAPOUR])
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
        # Those that may boil stand side by side for it. What came in as vapour may have moved a boiling point a little.
        boiling = 0
        for i in range(first, n):
            if rhs[i] > kink[i] - 5.0:
                cell[boiling] = i
                b_c[boiling] = tn[i]
                b_e[boiling] = e[i]
                b_heat[boiling] = c[i]
                b_x[boiling] = x[i]
                b_latent[boiling] = LATENT * m_dry[i]
                boiling += 1
        for _k in range(12 if boiling > 0 else 0):
            unsettled = 0
            for b in range(boiling):
                stays[b], stays_slope[b] = _boiling_moisture(stays_of, b_c[b])
            for b in range(boiling):
                over = b_x[b] - stays[b]
                latent = b_latent[b] if over > 0.0 else 0.0
                f = b_heat[b] * b_c[b] - b_e[b] + latent * over
                step = min(max(f / (b_heat[b] - latent * stays_slope[b]), -15.0), 15.0)
                b_c[b] -= step
                unsettled += 1 if abs(step) >= 0.02 else 0
            if unsettled == 0:
                break
        for b in range(boiling):
            i = int(cell[b])
            steam = min(max(0.0, (b_e[b] - b_heat[b] * b_c[b]) * (1.0 / LATENT)), 0.999 * m_dry[i] * b_x[b])
            rhs[i] = (b_e[b] - LATENT * steam) / b_heat[b]
            x[i] -= steam / m_dry[i]
            s[S_LOST] += steam
            out_energy += steam * (LATENT + C_WATER * rhs[i])
        # Far below boiling a cell only conducts, and so do deck and pan: there an implicit step may change more.
        for i in range(n):
            flow[i] = abs(rhs[i] - t[i])
            if rhs[i] < near_boiling:
                flow[i] *= CALM
            t[i] = rhs[i]
        for i in range(first):
            flow[i] *= CALM
        fastest = _largest(flow, n)
        for i in range(first, n):
            t_max[i] = max(t_max[i], t[i])
        s[S_HEAT_IN] += heat + heat_u - out_energy
        # Stage 6: the base lifts, and both faces brown, at their wall temperatures.
        flux = g[first - 1] * (t[first - 1] - t[first])
        boils = s[S_LIFT] > 0.0
        if not boils:
            mean = 0.0
            rest = CONTACT_LAYER
            for i in range(first, after):
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
        a_wall = max(q[Q_AW_FLOOR], _activity(sorb_of, activity_of, x[first], t[first]))
        end = q[Q_L_END_BASE]
        s[S_L_BASE] = end + (s[S_L_BASE] - end) * _decay(dt_use * browning_rate(wall, a_wall, q[Q_BROWN_BASE], q[Q_K_MAX]))
        wall = t[top] + max(0.0, (heat - dried * LATENT) / dt_use * half_up[top])
        wall = min(wall, t[top] + 60.0)
        s[S_WALL_TOP] = wall
        a_wall = max(q[Q_AW_FLOOR], _activity(sorb_of, activity_of, x[top], t[top]))
        end = q[Q_L_END_TOP]
        s[S_L_TOP] = end + (s[S_L_TOP] - end) * _decay(dt_use * browning_rate(wall, a_wall, q[Q_BROWN_TOP], q[Q_K_MAX]))
        left -= dt_use
        s[S_STEPS] += 1.0
        # The error control is cheap: the next step aims at a largest change of Q_TOL kelvin.
        target = dt_use * q[Q_TOL] / (fastest + 0.05)
        dt = min(max(target, 0.4 * dt_use, 0.01), 2.0 * dt_use, 5.0)
    s[S_DT] = dt
    for i in range(n):
        t_there[i] = t[i]
        x_there[i] = x[i]
        t_max_there[i] = t_max[i]
    for i in range(COLUMN_STATE):
        s_there[i] = s[i]
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
            # The glowing element runs whatever the dial says, but for its own duty, until its own stop.
            stop = 0.5 + 0.5 * (p[P_FULL_STOP_C] - cav[SENSOR]) / p[P_HYSTERESIS]
            full *= p[P_FULL_DUTY] * min(1.0, max(0.0, stop))
        blend = h / p[P_TAU_ELEMENT]
        cav[RAD_BOTTOM] += blend * (bottom - cav[RAD_BOTTOM])
        cav[RAD_TOP] += blend * (upper - cav[RAD_TOP])
        cav[RAD_FULL] += h / (0.4 * p[P_TAU_ELEMENT]) * (full - cav[RAD_FULL])
        released = cav[RAD_BOTTOM] + cav[RAD_TOP] + cav[RAD_FULL]
        over_air = 0.0
        over_liner = 0.0
        over_food = 0.0
        over_under = 0.0
        over_direct = 0.0
        if p[P_OVER_C] > 0.0:
            # A second deck takes the elements' heat in the stead of the food under it, or of the deck over it, and gives its own.
            over_direct = _shines_down_w(cav, p) * p[P_OVER_TOP_VIEW] + (1.0 - p[P_CONV_SHARE]) * cav[RAD_BOTTOM] * p[P_OVER_BOTTOM_VIEW]
            over_4 = (cav[OVER] + K0) ** 4
            liner_4 = (cav[LINER] + K0) ** 4
            over_liner = EPS_OVER * p[P_OVER_AREA] * (2.0 - p[P_OVER_SEEN] - p[P_UNDER_SEEN]) * SIGMA * (over_4 - liner_4)
            over_air = 2.0 * h_air * p[P_OVER_AREA] * (cav[OVER] - cav[AIR])
            seen_4 = p[P_OVER_SEEN] * over_4 + (1.0 - p[P_OVER_SEEN]) * liner_4
            over_food = p[P_OVER_SEEN] * (sinks[K_RADIANT_TOP] + EPS_OVER * p[P_OVER_AREA] * SIGMA * (over_4 - seen_4))
            under_4 = p[P_UNDER_SEEN] * over_4 + (1.0 - p[P_UNDER_SEEN]) * liner_4
            over_under = p[P_UNDER_SEEN] * (sinks[K_RADIANT_UNDER] + EPS_OVER * p[P_OVER_AREA] * SIGMA * (over_4 - under_4))
            cav[OVER] += h / p[P_OVER_C] * (over_direct - over_liner - over_air - over_food - over_under)
        to_air = p[P_CONV_SHARE] * released + ring + over_air
        radiant = (1.0 - p[P_CONV_SHARE]) * released
        direct_top = _shines_down_w(cav, p)
        direct_top *= u[U_VIEW_TOP] * u[U_SHIELD] * (1.0 - p[P_OVER_SEEN])
        direct_under = (1.0 - p[P_CONV_SHARE]) * cav[RAD_BOTTOM] * u[U_VIEW_BOTTOM] * (1.0 - p[P_UNDER_SEEN])
        swap_liner = h_air * p[P_A_LINER] * (cav[LINER] - cav[AIR])
        leak = p[P_U_LINER_SKIN] * (cav[LINER] - cav[SKIN])
        loss = p[P_U_LOSS] * (cav[SKIN] - p[P_AMBIENT_C])
        door = u[U_DOOR] * p[P_DOOR_W_K] * (cav[AIR] - p[P_AMBIENT_C])
        cav[AIR] += h / p[P_C_AIR] * (to_air + swap_liner - sinks[K_CONVECTIVE_TOP] - sinks[K_CONVECTIVE_UNDER] - door)
        liner_in = (
            radiant
            - direct_top
            - direct_under
            - over_direct
            + over_liner
            - swap_liner
            - leak
            - (sinks[K_RADIANT_TOP] - over_food)
            - (sinks[K_RADIANT_UNDER] - over_under)
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
        bc[B_RADIANT_UNDER] = share * cav[RAD_BOTTOM] * u[U_VIEW_BOTTOM] / p[P_A_DECK] * (1.0 - p[P_UNDER_SEEN])
        bc[B_VIEW_UNDER] = cav[LINER]
        if p[P_UNDER_SEEN] > 0.0:
            below = p[P_UNDER_SEEN] * (cav[OVER] + K0) ** 4 + (1.0 - p[P_UNDER_SEEN]) * (cav[LINER] + K0) ** 4
            bc[B_VIEW_UNDER] = below**0.25 - K0
    bc[B_HOB] = u[U_HOB]
    bc[B_VAPOUR] = humid


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def run_bake(times, controls, cav, p, t, x, t_max, s, q, m_dry, mass_r, c_solid, loosen, table, out, work, aim):
    """March all columns and the hearth over `times` (k+1,), controls (k, CONTROL_SIZE).

    t, x, t_max, m_dry, mass_r, c_solid, loosen: (columns, nodes); s: (columns, COLUMN_STATE);
    q: (columns, COLUMN_PARAMS). out: (k+1, columns, RECORD_SIZE), the R_ slots;
    row 0 must be filled by the caller. Everything is advanced in place, so a bake can be stopped
    at any grid time and continued with identical results. aim: the A_ slots of a crust towards which column 0 is the
    centre and the others the rim, to stop one record after which no later moment can be nearer to it; or empty.
    Returns how it ended, and how many intervals were marched.
    """
    columns = t.shape[0]
    bc = np.zeros(BOUNDARY_SIZE)
    sinks = np.zeros(SINKS)
    air = table.air
    rows = table.rows
    core_c = -1e9
    past = False
    for k in range(times.shape[0] - 1):
        span = times[k + 1] - times[k]
        u = controls[k]
        sinks[:] = 0.0
        for j in range(columns):
            boundary(cav, p, u, 1.0 + u[U_SECTOR] * q[j, Q_UNEVEN], bc, 3000.0)
            bc[B_RADIANT_TOP] *= q[j, Q_VIEW_FOOD]
            top_j, under_j, ctop, cunder, ended = advance_column(j, span, t, x, t_max, s, q, m_dry, mass_r, c_solid, loosen, bc, air, rows, work)
            if ended != CONVERGED:
                return ended, k
            share = q[j, Q_AREA_SHARE]
            direct_top = q[j, Q_EPS_TOP] * (1.0 - q[j, Q_WALL]) * bc[B_RADIANT_TOP] * span
            direct_under = q[j, Q_EPS_UNDER] * bc[B_RADIANT_UNDER] * span
            sinks[K_RADIANT_TOP] += share * p[P_A_FOOD] * (top_j - ctop - direct_top) / span
            sinks[K_CONVECTIVE_TOP] += share * p[P_A_FOOD] * ctop / span
            sinks[K_RADIANT_UNDER] += share * p[P_A_DECK] * (under_j - cunder - direct_under - bc[B_HOB] * span) / span
            sinks[K_CONVECTIVE_UNDER] += share * p[P_A_DECK] * cunder / span
            record(j, out[k + 1], t, x, s, q, m_dry, mass_r, loosen)
        step_cavity(span, cav, p, u, sinks)
        out[k + 1, 0, R_AIR] = cav[AIR]
        out[k + 1, 0, R_LINER] = cav[LINER]
        if aim.shape[0] > 0:
            if past:
                return CONVERGED, k + 1
            core_c = max(core_c, out[k + 1, 0, R_CORE])
            past = _past(times[k + 1], out[k + 1], q, core_c, aim)
    return CONVERGED, times.shape[0] - 1


@njit(cache=True, nogil=True, inline="always", error_model="numpy")
def _past(t_s, row, q, core_c, aim):
    """Whether the right moment to pull is known: colours only darken.

    row: (columns, RECORD_SIZE); core_c: the hottest the core has been. It is past where base and rim are darker than
    wanted, and the cheese too on a set crust, or something burns.
    """
    if row[0, R_BASE_L] > aim[A_BASE]:
        return False
    lost = row[0, R_LOST] * q[0, Q_AREA_SHARE]
    for j in range(1, row.shape[0]):
        if row[j, R_TOP_L] > aim[A_RIM]:
            return False
        lost += row[j, R_LOST] * q[j, Q_AREA_SHARE]
    for j in range(1, row.shape[0]):
        if row[j, R_TOP_L] < aim[A_BURNT_RIM]:
            return True
    if row[0, R_BASE_L] < aim[A_BURNT_BASE] or row[0, R_TOP_L] < aim[A_BURNT_CHEESE]:
        return True
    if row[0, R_TOP_L] > aim[A_CHEESE] or core_c < aim[A_CORE] or row[0, R_SAUCE] < aim[A_HOT] or lost < aim[A_SET_LOST]:
        return False
    return aim[A_TOPPED] <= 0.0 or (t_s > aim[A_TOPPED] + 5.0 and row[0, R_TOP_WALL] >= aim[A_MELTED])


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def stored(t, x, q, m_dry, c_solid, energy, water):
    """Fill energy (columns,) with the enthalpy above 0 C of what takes part now, J/m2, and water (columns,), kg/m2."""
    for j in range(t.shape[0]):
        energy[j] = water[j] = 0.0
        for i in range(int(q[j, Q_DECK_CELLS] + q[j, Q_PAN] + q[j, Q_DOUGH] + q[j, Q_TOPPING])):
            held = m_dry[j, i] * x[j, i]
            energy[j] += (m_dry[j, i] * C_DRY + held * C_WATER if m_dry[j, i] > 0.0 else c_solid[j, i]) * t[j, i]
            water[j] += held


@njit(cache=True, nogil=True, error_model="numpy", fastmath=FAST)
def record(j, out, t_all, x_all, s_all, q_all, m_dry_all, mass_all, loosen_all):
    """Write the reported quantities of column j into its row of out (columns, RECORD_SIZE)."""
    row = _row(out, j)
    t = _row(t_all, j)
    x = _row(x_all, j)
    s = _row(s_all, j)
    q = _row(q_all, j)
    m_dry = _row(m_dry_all, j)
    mass = _row(mass_all, j)
    loosen = _row(loosen_all, j)
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
    # The core is the coldest layer, not the coldest cell: it is the same on any mesh. Sums from the base up keep
    # the loop from waiting for itself.
    load = _stack_row()
    heat = _stack_row()
    load[0] = heat[0] = 0.0
    for i in range(nf):
        load[i + 1] = load[i] + mass[first + i]
        heat[i + 1] = heat[i] + mass[first + i] * t[first + i]
    cold = 1e9
    low = 0
    for i in range(1, nf + 1):
        while load[i] - load[low + 1] >= CORE_LAYER:
            low += 1
        if load[i] - load[low] >= CORE_LAYER or i == nf:
            cold = min(cold, (heat[i] - heat[low]) / (load[i] - load[low]))
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
def colour_distance(base_l, rim_l, cheese_l, aim):
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


@njit(cache=True, nogil=True, inline="always", error_model="numpy")
def reached_s(t_s, l_star, stop, aim_l, end_l):
    """When a colour is down to aim_l, of the first `stop` records; t_s, l_star (n,), falling towards end_l.

    Where it is not there by the last of them, when it would be at the pace it fell at in the last tenth, counted in
    ln(L* - end_l), but within LATEST_REACH times as long.
    """
    begin = min(0.0, t_s[0])
    for i in range(stop):
        if l_star[i] <= aim_l:
            if i == 0:
                return t_s[0]
            return t_s[i - 1] + (l_star[i - 1] - aim_l) / (l_star[i - 1] - l_star[i]) * (t_s[i] - t_s[i - 1])
    last = stop - 1
    latest = begin + LATEST_REACH * (t_s[last] - begin)
    first = last
    while first > 0 and t_s[last] - t_s[first] < 0.1 * (t_s[last] - begin):
        first -= 1
    fell = math.log((l_star[first] - end_l) / (l_star[last] - end_l)) if l_star[last] > end_l else 0.0
    if fell <= 0.0 or aim_l <= end_l:
        return latest
    to_go = math.log((l_star[last] - end_l) / (aim_l - end_l)) / fell * (t_s[last] - t_s[first])
    return min(latest, t_s[last] + to_go)


@njit(cache=True, nogil=True, error_model="numpy")
def right_pull(t_s, base_l, rim_l, hot_rim_l, cheese_l, top_c, core_c, sauce_c, loss_pct, aim, from_s):
    """The right moment to pull: the mean of ln(time) over the moments when base, rim and cheese are as wanted.

    It is not before from_s nor before the crust is baked through, and not after something burns or base or rim is
    A_TOO_DARK darker than wanted; nor is it a pull where one is A_TOO_PALE paler and nothing burns. All (n,) but aim,
    the A_ slots. Times count from when the dough met heat. Returns the moment, s; the nearest record's index; how it
    ended (the E_ codes); the distance from the wanted crust there; the index from which something burns (n: nothing does).
    """
    n = t_s.shape[0]
    burns = n
    for i in range(n):
        if base_l[i] < aim[A_BURNT_BASE] or hot_rim_l[i] < aim[A_BURNT_RIM] or cheese_l[i] < aim[A_BURNT_CHEESE]:
            burns = i
            break
    last = max(0, burns - 1)
    set_from = n
    for i in range(burns):
        hot = core_c[i] >= aim[A_CORE] and sauce_c[i] >= aim[A_HOT] and loss_pct[i] >= aim[A_SET_LOSS]
        if hot and aim[A_TOPPED] > 0.0:
            hot = t_s[i] > aim[A_TOPPED] + 5.0 and top_c[i] >= aim[A_MELTED]
        if hot:
            set_from = i
            break
    begin = min(0.0, t_s[0])
    total = 0.0
    weights = 0.0
    held = 0.0
    limit = E_CORE
    times = (0.0, 0.0, 0.0)
    for part in range(3):
        weight = aim[A_TIME_BASE + part]
        if weight > 0.0:
            values = base_l if part == 0 else rim_l if part == 1 else cheese_l
            end_l = aim[A_BURNT_CHEESE] - 2.0 if part == 2 else 20.0
            ln = math.log(max(SOONEST_S, reached_s(t_s, values, last + 1, aim[A_BASE + part], end_l) - begin))
            times = (ln if part == 0 else times[0], ln if part == 1 else times[1], ln if part == 2 else times[2])
            total += weight * ln
            weights += weight
    pull_s = t_s[0]
    if weights > 0.0:
        mean = total / weights
        pull_s = begin + math.exp(mean)
        for part in range(3):
            # What is latest holds the others back.
            behind = aim[A_TIME_BASE + part] * (times[part] - mean)
            if aim[A_TIME_BASE + part] > 0.0 and (limit == E_CORE or behind > held):
                held = behind
                limit = E_BASE + part
    ended = limit
    if set_from == n:
        ended = E_NOT_DONE if burns == n else E_BURNS if core_c[last] >= aim[A_CORE] and sauce_c[last] >= aim[A_HOT] else E_RAW
        pull_s = t_s[last]
    else:
        pull_s = max(pull_s, from_s)
        if pull_s < t_s[set_from]:
            # When between two records it was baked through is for the caller to say.
            ended = E_CORE
        else:
            dark = set_from
            while dark < last and not (base_l[dark] < aim[A_BASE] - aim[A_TOO_DARK] or hot_rim_l[dark] < aim[A_RIM] - aim[A_TOO_DARK]):
                dark += 1
            if pull_s > t_s[dark]:
                if dark == n - 1:
                    ended = E_NOT_DONE
                pull_s = t_s[dark]
    index = last
    while index > 0 and pull_s - t_s[index - 1] <= t_s[index] - pull_s:
        index -= 1
    if set_from < n:
        index = max(index, set_from)
    pale_base = aim[A_TIME_BASE] == 1.0 and base_l[index] > aim[A_BASE] + aim[A_TOO_PALE]
    pale_rim = aim[A_TIME_RIM] == 1.0 and rim_l[index] > aim[A_RIM] + aim[A_TOO_PALE]
    if (pale_base or pale_rim) and burns == n and set_from < n:
        ended = E_NOT_DONE
        index = n - 1
        pull_s = t_s[index]
    distance, _ = colour_distance(base_l[index], rim_l[index], cheese_l[index], aim)
    return pull_s, index, ended, distance, burns


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
