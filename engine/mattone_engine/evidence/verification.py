"""The numbers against closed forms, a finer mesh and an independent solver."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from scipy.optimize import brentq

from mattone_engine.bake.parallel import in_parallel
from mattone_engine.evidence import ReferenceBake, reference_bakes
from mattone_engine.heat import column as k
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.layout import build_columns
from mattone_engine.heat.outcome import Series, first_there, series
from mattone_engine.heat.parameters import Values, parameter_values
from mattone_engine.heat.properties import properties
from mattone_engine.heat.reference import ReferenceRun, bake_column
from mattone_engine.heat.run import Bake
from mattone_engine.heat.variation import Variation
from mattone_engine.things import Hearth, SimulateInput, Surface
from mattone_engine.things.air import pressure_pa
from mattone_engine.things.capabilities import materials

DOUGH_K, DOUGH_RHO_C = 0.45, 1.25e6
# h_top, air, radiant top, view top, h_under, air, radiant under, view under, hob, vapour pressure.
STEADY_BOUNDARY = np.array([4.0, 262.0, 300.0, 265.0, 5.0, 262.0, 400.0, 262.0, 0.0, 3000.0])


def contact_of_half_spaces(kind: str, deck_c: float = 330.0, dough_c: float = 20.0) -> tuple[float, float]:
    """Interface temperature (C) computed, and (e1 T1 + e2 T2) / (e1 + e2) (Carslaw & Jaeger 1959)."""
    deck = materials()[kind]
    count, dx_deck, dx_dough = 4000, 4e-5, 1e-5
    c = np.concatenate([np.full(count, deck.density * deck.heat * dx_deck), np.full(count, DOUGH_RHO_C * dx_dough)])
    half = np.concatenate([np.full(count, 0.5 * dx_deck / deck.conductivity), np.full(count, 0.5 * dx_dough / DOUGH_K)])
    t = np.concatenate([np.full(count, deck_c), np.full(count, dough_c)])
    times = np.linspace(0.0, 8.0, 401)
    out = np.zeros((times.size, 2 * count))
    k.conduct_slab(times, t, c, half, 0.0, 0.0, 0.0, 0.0, out)
    left, right = out[-1, count - 1], out[-1, count]
    face = (left / half[count - 1] + right / half[count]) / (1 / half[count - 1] + 1 / half[count])
    e1, e2 = deck.effusivity, math.sqrt(DOUGH_K * DOUGH_RHO_C)
    return float(face), (e1 * deck_c + e2 * dough_c) / (e1 + e2)


def slab_error() -> float:
    """Largest error of a convectively cooled slab against its series, as a share of the span.

    Sum of C_n exp(-z_n^2 Fo) cos(z_n x) (Incropera 2007, 5.5), at three times.
    """
    conductivity, rho_c, length, h = 1.2, 2.0e6, 0.015, 40.0
    count = 200
    dx = length / count
    half = np.full(count, 0.5 * dx / conductivity)
    times = np.linspace(0.0, 900.0, 9001)
    out = np.zeros((times.size, count))
    k.conduct_slab(times, np.full(count, 250.0), np.full(count, rho_c * dx), half, h, 20.0, h, 20.0, out)
    biot = h * (length / 2) / conductivity
    z = np.array([brentq(lambda v: v * np.tan(v) - biot, n * np.pi + 1e-9, n * np.pi + np.pi / 2 - 1e-9) for n in range(40)])
    c_n = 4 * np.sin(z) / (2 * z + np.sin(2 * z))
    place = np.abs((np.arange(count) + 0.5) * dx - length / 2) / (length / 2)
    worst = 0.0
    for index in (600, 3000, 9000):
        fourier = conductivity / rho_c * times[index] / (length / 2) ** 2
        exact = 20 + 230 * (c_n[:, None] * np.exp(-(z[:, None] ** 2) * fourier) * np.cos(z[:, None] * place)).sum(axis=0)
        worst = max(worst, float(np.abs(out[index] - exact).max()))
    return worst / 230.0


@dataclass(frozen=True)
class GridError:
    """One bake: error in % of base, rim and core times against a mesh four times as fine."""

    name: str
    base_pct: float | None
    rim_pct: float | None
    core_pct: float | None

    @property
    def worst_pct(self) -> float:
        """The largest of the three, whichever way; 0 where none can be told."""
        return max((abs(v) for v in (self.base_pct, self.rim_pct, self.core_pct) if v is not None), default=0.0)


def times_of(result: Series, base_l: float = 68.0, rim_l: float = 70.0) -> tuple[float | None, float | None, float | None]:
    """Seconds until base and rim reach a colour and the core 93 C."""
    return first_there(result.t_s, result.base_l, base_l), first_there(result.t_s, result.rim_l, rim_l), first_there(result.t_s, -result.core_c, -93.0)


def grid_error(bake: ReferenceBake, values: Values | None = None) -> GridError:
    """The production mesh against one four times as fine, on one reference bake; values: other parameters."""

    def at(refine: int) -> tuple[float | None, float | None, float | None]:
        run = Bake(bake.request, quick=True, refine=refine, values=values)
        run.advance_to(1.5 * bake.window_s[1])
        return times_of(series(run.trace()))

    errors = [None if ours is None or fine is None else 100.0 * (ours / fine - 1.0) for ours, fine in zip(at(1), at(4), strict=True)]
    return GridError(bake.name, *errors)


def worst_grid_pct(values: Values | None = None) -> float:
    """The largest of these errors over all reference bakes, %."""
    return max(error.worst_pct for error in in_parallel(lambda bake: grid_error(bake, values), reference_bakes()))


def nudged(by: float, names: Iterable[str]) -> Values:
    """The parameters with these raised by a share of themselves (lowered: below 0)."""
    return parameter_values() | {name: (1.0 + by) * parameter_values()[name] for name in names}


def grid_errors() -> list[GridError]:
    """How a finer mesh changes each reference bake."""
    return [grid_error(bake) for bake in reference_bakes()]


def closure() -> tuple[float, float]:
    """The largest relative error of energy and water over all reference bakes."""
    energy, water = 0.0, 0.0
    for bake in reference_bakes():
        result = bake.result().closure
        energy, water = max(energy, result.energy), max(water, result.water)
    return energy, water


@dataclass(frozen=True)
class Agreement:
    """The kernel and the independent solver on one column: t_s (n,), rows (n, 12), and the other run."""

    t_s: np.ndarray
    rows: np.ndarray
    reference: ReferenceRun

    def ratios(self) -> tuple[float, float, float]:
        """Kernel over reference: time to L* 72 at the base, time of the core at 93 C, final loss."""

        def ratio(ours: float | None, theirs: float | None) -> float:
            return math.nan if ours is None or theirs is None else ours / theirs

        r = self.reference
        return (
            ratio(first_there(self.t_s, self.rows[:, k.R_BASE_L], 72.0), first_there(r.t_s, r.base_l, 72.0)),
            ratio(first_there(self.t_s, -self.rows[:, k.R_CORE], -93.0), first_there(r.t_s, -r.core_c, -93.0)),
            float(self.rows[-1, k.R_LOST] / r.lost_kg_m2[-1]),
        )


def agreement(spec: SimulateInput | None = None, column: int = 0, until_s: float = 480.0) -> Agreement:
    """Bake one column under a constant boundary by the kernel and by solve_ivp(BDF)."""
    request = spec if spec is not None else SimulateInput(hearth=Hearth(setpoint_c=260, level=3), surface=Surface(kind="stone", thickness_mm=15, deck_c=262))
    c = build_columns(request, heat_up(request), parameter_values(), Variation(), quick=True)
    table = properties(pressure_pa(0))
    times = np.linspace(0.0, until_s, round(until_s / 4.0) + 1)
    reference = bake_column(c, column, STEADY_BOUNDARY, table, times, rtol=3e-4, atol=1e-5)
    rows = np.zeros((times.size, c.t.shape[0], k.RECORD_SIZE))
    j = column
    for i, span in enumerate(np.diff(times)):
        k.advance_column(j, span, c.t, c.x, c.t_max, c.s, c.q, c.m_dry, c.mass, c.c_solid, c.loosen, STEADY_BOUNDARY, table.air, table.rows, c.work)
        k.record(j, rows[i + 1], c.t, c.x, c.s, c.q, c.m_dry, c.mass, c.loosen)
    return Agreement(times[1:], rows[1:, j], reference)
