"""Tables of what water in dough does, for the kernels."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from scipy.optimize import brentq

from mattone_engine.heat import column as k

# Just below the critical point of water, K: hotter than any dough.
CRITICAL_K = 646.0


@lru_cache(maxsize=32)
def properties(pressure: float) -> k.Tables:
    """The tables of one ambient pressure (Pa), made once."""
    return property_tables(pressure)


@lru_cache(maxsize=64)
def boiling_c(pressure: float) -> float:
    """Boiling point of water (C) at an ambient pressure (Pa)."""
    return float(brentq(lambda t_c: saturation_pa(np.asarray(t_c + k.K0)) - pressure, 0.0, 200.0))


def property_tables(pressure_pa: float) -> k.Tables:
    """Over temperature: p_sat (Pa), vapour pipe and 1 / Oswin scale; and the rows of boiling moisture, of water
    activity over moisture / Oswin scale, and of where a moisture boils, over its square root.

    Oswin scale after Lind & Rask (1991). Below the boiling point the boiling moisture rises linearly far above any
    dough's, which keeps it monotonic.
    """
    # At the zeros of a Chebyshev polynomial the fit errs alike over the whole range.
    u = np.cos(np.pi * (np.arange(200) + 0.5) / 200)
    air_c = k.AIR_MID_C + k.AIR_HALF_K * u
    smooth = (saturation_pa(air_c + k.K0) ** 0.125, free_pipe_w_mk(air_c + k.K0, pressure_pa) ** 0.125, 1.0 / oswin_scale(air_c + k.K0))
    air = np.stack([np.polynomial.Chebyshev.fit(u, values, k.AIR_DEGREE, domain=[-1.0, 1.0]).convert(kind=np.polynomial.Polynomial).coef for values in smooth])

    t_c = k.T_LO + k.T_STEP * np.arange(k.ROW_COUNT)
    ratio = pressure_pa / saturation_pa(t_c + k.K0)
    boiling = ratio < 1.0
    x_q = np.full(k.ROW_COUNT, 0.0)
    a_w = ratio[boiling]
    x_q[boiling] = np.minimum(oswin_scale(t_c + k.K0)[boiling] * (a_w / (1.0 - a_w)) ** 0.38, 6.0)
    first = int(np.argmax(boiling))
    x_q[:first] = 6.0 + 0.5 * (first - np.arange(first))
    activity = water_activity(k.U_STEP * np.arange(k.ROW_COUNT), 1.0)
    # x_q falls with temperature: turned over it is a table to look temperatures up in.
    boil_c = np.interp((k.V_STEP * np.arange(k.ROW_COUNT)) ** 2, x_q[::-1], t_c[::-1])
    return k.Tables(np.ascontiguousarray(air), np.stack([x_q, activity, boil_c]))


def saturation_pa(t_k: np.ndarray) -> np.ndarray:
    """Saturation pressure of water, Pa, over temperature, K, up to near its critical point (Wagner & Pruss 2002)."""
    t_k = np.minimum(t_k, CRITICAL_K)
    theta = 1.0 - t_k / 647.096
    exponent = -7.85951783 * theta + 1.84408259 * theta**1.5 - 11.7866497 * theta**3 + 22.6807411 * theta**3.5 - 15.9618719 * theta**4 + 1.80122502 * theta**7.5
    return np.asarray(22.064e6 * np.exp(exponent * 647.096 / t_k))


def free_pipe_w_mk(t_k: np.ndarray, pressure_pa: float) -> np.ndarray:
    """Heat that free vapour diffusion carries at saturation, W/mK (de Vries 1958)."""
    diffusivity = 2.5e-5 * (t_k / 298.0) ** 1.8 * k.STANDARD_PRESSURE_PA / pressure_pa
    slope = (saturation_pa(t_k + 0.05) - saturation_pa(t_k - 0.05)) / 0.1
    return np.asarray(diffusivity * k.M_WATER * k.LATENT / (k.R_GAS * t_k) * slope)


def oswin_scale(t_k: np.ndarray) -> np.ndarray:
    """Moisture (kg/kg) at which dough has a water activity of one half (Lind & Rask 1991)."""
    return np.asarray(np.exp(5.5 - 0.0056 * t_k) / 100.0)


def water_activity(x: np.ndarray, scale: np.ndarray | float) -> np.ndarray:
    """Oswin water activity of moisture x (kg/kg) for the scale of its temperature."""
    return np.asarray(1.0 / (1.0 + (np.maximum(x, 1e-6) / scale) ** (-1.0 / 0.38)))
