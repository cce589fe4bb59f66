"""Is the window honest? Hidden ovens and doughs are drawn, baked, and looked for in the window.

The hidden truth differs from what the engine is told by what its knowledge allows for and by
a disturbance of its parameters inside their ranges, which stands for what the model itself gets
wrong. Nothing of this uses the window's own arithmetic.
"""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.confidence import rig_class
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.simulate import horizon_s, simulate
from mattone_engine.heat.outcome import likely_done, series, target_of
from mattone_engine.heat.run import Bake
from mattone_engine.heat.variation import Variation
from mattone_engine.knowledge.truths import STRAYING, drawn, strayed_values
from mattone_engine.things import SimulateInput
from mattone_engine.things.base import StrictModel


class CoverageInput(StrictModel):
    """The JSON of `./mattone engine coverage`: bakes to be told a window, and how many truths to draw of each."""

    bakes: Annotated[tuple[SimulateInput, ...], Field(min_length=1, max_length=40, strict=False)]
    draws: Annotated[int, Field(ge=5, le=2000)] = 60
    seed: Annotated[int, Field(ge=0, le=1_000_000)] = 1


class Covered(StrictModel):
    """One bake: its window, the share of hidden bakes inside it, and the spread of their ln(time)."""

    rig: str
    look_from_s: float
    likely_done_s: float
    window_end_s: float
    inside_pct: float
    early_pct: float
    late_pct: float
    spread: float


class CoverageResult(StrictModel):
    """Every bake and all together; the window promises 80 %."""

    bakes: list[Covered]
    inside_pct: float
    engine: str


def coverage(request: CoverageInput) -> CoverageResult:
    """Draw hidden truths, bake them, count how many are done inside the promised window."""
    rng = np.random.default_rng(request.seed)
    result = [_covered(spec, request.draws, rng) for spec in request.bakes]
    return CoverageResult(bakes=result, inside_pct=round(float(np.mean([t.inside_pct for t in result])), 1), engine=ENGINE_VERSION)


def _covered(spec: SimulateInput, draws: int, rng: np.random.Generator) -> Covered:
    promised = simulate(spec)
    target = target_of(spec)
    hidden = [(drawn(spec.knowledge, rng), drawn_values(rng)) for _ in range(draws)]

    def done_s(truth: tuple[Variation, dict[str, float]]) -> float:
        bake = Bake(spec, quick=True, variation=truth[0], values=truth[1])
        bake.advance_to(1.5 * horizon_s(spec))
        return likely_done(series(bake.trace()), target).t_s

    times = np.array(in_parallel(done_s, hidden))
    early, late = times < promised.look_from_s, times > promised.not_later_s
    return Covered(
        rig=rig_class(spec),
        look_from_s=promised.look_from_s,
        likely_done_s=promised.likely_done_s,
        window_end_s=promised.not_later_s,
        inside_pct=round(100.0 * float((~early & ~late).mean()), 1),
        early_pct=round(100.0 * float(early.mean()), 1),
        late_pct=round(100.0 * float(late.mean()), 1),
        spread=round(float(np.std(np.log(times))), 3),
    )


def drawn_values(rng: np.random.Generator) -> dict[str, float]:
    """Parameters strayed inside their ranges, in the logarithm."""
    return strayed_values(rng.standard_normal(STRAYING))
