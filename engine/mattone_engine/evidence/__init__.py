"""The model beside bakes of general practice, closed forms and other solvers: docs/engine/evidence.md."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from mattone_engine.bake.result import SimulateResult
from mattone_engine.bake.simulate import simulate
from mattone_engine.things import SimulateInput


@dataclass(frozen=True)
class ReferenceBake:
    """A bake cooks agree on: its window in s, its loss in % where it is known."""

    name: str
    about: str
    window_s: tuple[float, float]
    loss_pct: tuple[float, float] | None
    request: SimulateInput

    def result(self) -> SimulateResult:
        """What the engine says of this bake."""
        return simulate(self.request, spread=(0.75, 1.35))


@cache
def reference_bakes() -> list[ReferenceBake]:
    """All reference bakes, in order."""
    text = files("mattone_engine.evidence").joinpath("reference_bakes.toml").read_text(encoding="utf-8")
    found = []
    for name, row in tomllib.loads(text).items():
        loss = row.get("loss_pct")
        found.append(
            ReferenceBake(
                name=name,
                about=row["about"],
                window_s=(row["window_s"][0], row["window_s"][1]),
                loss_pct=(loss[0], loss[1]) if loss else None,
                request=SimulateInput.model_validate(row["ask"]),
            )
        )
    return found


def outside(value: float, low: float, high: float) -> float:
    """How far a value lies outside its band: 0 inside, negative below, positive above."""
    return min(0.0, value - low) + max(0.0, value - high)
