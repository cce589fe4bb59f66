"""The model beside bakes of general practice, closed forms and other solvers: docs/engine/evidence.md."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

import numpy as np

from mattone_engine.bake.result import SimulateResult
from mattone_engine.bake.simulate import simulate
from mattone_engine.heat.outcome import first_there, target_of
from mattone_engine.things import SimulateInput


@dataclass(frozen=True)
class ReferenceBake:
    """A bake cooks agree on: its window in s; its loss in % and the L* of its crust where they are known.

    meets: base and rim are to be as wanted within MEET of each other's time.
    """

    name: str
    about: str
    window_s: tuple[float, float]
    loss_pct: tuple[float, float] | None
    base_l: tuple[float, float] | None
    rim_l: tuple[float, float] | None
    meets: bool
    request: SimulateInput

    def meeting(self, result: SimulateResult) -> float | None:
        """When the base is as wanted, over when the rim is; None where one of them never is."""
        traces, target = result.traces, target_of(self.request)
        t_s = np.array(traces.t_s)
        base_s, rim_s = first_there(t_s, np.array(traces.base_l), target.base), first_there(t_s, np.array(traces.rim_l), target.rim)
        return None if base_s is None or rim_s is None else base_s / rim_s

    def result(self) -> SimulateResult:
        """What the engine says of this bake."""
        return simulate(self.request, spread=(0.75, 1.35))


# Base and rim of a bake that meets: within so much of each other's time.
MEET = 0.20


def _band(pair: list[float] | None) -> tuple[float, float] | None:
    return (pair[0], pair[1]) if pair else None


@cache
def reference_bakes() -> list[ReferenceBake]:
    """All reference bakes, in order."""
    text = files("mattone_engine.evidence").joinpath("reference_bakes.toml").read_text(encoding="utf-8")
    found = []
    for name, row in tomllib.loads(text).items():
        found.append(
            ReferenceBake(
                name=name,
                about=row["about"],
                window_s=(row["window_s"][0], row["window_s"][1]),
                loss_pct=_band(row.get("loss_pct")),
                base_l=_band(row.get("base_l")),
                rim_l=_band(row.get("rim_l")),
                meets=row.get("meets", False),
                request=SimulateInput.model_validate(row["ask"]),
            )
        )
    return found


def outside(value: float, low: float, high: float) -> float:
    """How far a value lies outside its band: 0 inside, negative below, positive above."""
    return min(0.0, value - low) + max(0.0, value - high)
