"""Tables of what water in dough does, for the kernels."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from mattone_engine.heat import column as k


@lru_cache(maxsize=32)
def properties(pressure: float) -> np.ndarray:
    """The table of one ambient pressure (Pa), made once."""
    return property_table(pressure)


def boiling_c(pressure: float) -> float:
    """Boiling point of water (C) at an ambient pressure (Pa)."""
    table = properties(pressure)
    return float(k.T_LO + k.T_STEP * np.interp(pressure, table[:, k.ROW_PSAT], np.arange(k.T_COUNT)))


def property_table(pressure_pa: float) -> np.ndarray:
    """Table, shape (k.T_COUNT, 6): p_sat (Pa), boiling sorption moisture, 1 / Oswin scale, vapour
    pipe, all over temperature; water activity over moisture / Oswin scale; and where a moisture boils, over its fourth root.

    p_sat after Wagner & Pruss (2002); Oswin scale after Lind & Rask (1991). Below the boiling
    point the boiling moisture rises linearly far above any dough's, which keeps it monotonic.
    """
    t_c = k.T_LO + k.T_STEP * np.arange(k.T_COUNT)
    t_k = np.minimum(t_c + k.K0, 646.0)
    theta = 1.0 - t_k / 647.096
    exponent = -7.85951783 * theta + 1.84408259 * theta**1.5 - 11.7866497 * theta**3 + 22.6807411 * theta**3.5 - 15.9618719 * theta**4 + 1.80122502 * theta**7.5
    psat = 22.064e6 * np.exp(exponent * 647.096 / t_k)
    sorb = oswin_scale(t_k)
    ratio = pressure_pa / psat
    boiling = ratio < 1.0
    x_q = np.full(k.T_COUNT, 0.0)
    a_w = ratio[boiling]
    x_q[boiling] = np.minimum(sorb[boiling] * (a_w / (1.0 - a_w)) ** 0.38, 6.0)
    first = int(np.argmax(boiling))
    x_q[:first] = 6.0 + 0.5 * (first - np.arange(first))
    diffusivity = 2.5e-5 * (t_k / 298.0) ** 1.8 * k.STANDARD_PRESSURE_PA / pressure_pa
    pipe = diffusivity * k.M_WATER * k.LATENT / (k.R_GAS * t_k) * np.gradient(psat, k.T_STEP)
    activity = water_activity(k.U_STEP * np.arange(k.T_COUNT), 1.0)
    # x_q falls with temperature: turned over it is a table to look temperatures up in.
    boil_c = np.interp((k.V_STEP * np.arange(k.T_COUNT)) ** 4, x_q[::-1], t_c[::-1])
    return np.ascontiguousarray(np.stack([psat, x_q, 1.0 / sorb, pipe, activity, boil_c], axis=1))


def oswin_scale(t_k: np.ndarray) -> np.ndarray:
    """Moisture (kg/kg) at which dough has a water activity of one half (Lind & Rask 1991)."""
    return np.asarray(np.exp(5.5 - 0.0056 * t_k) / 100.0)


def water_activity(x: np.ndarray, scale: np.ndarray | float) -> np.ndarray:
    """Oswin water activity of moisture x (kg/kg) for the scale of its temperature."""
    return np.asarray(1.0 / (1.0 + (np.maximum(x, 1e-6) / scale) ** (-1.0 / 0.38)))
