"""What each parameter and each effect does, and whether the window keeps its promise."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from mattone_engine.bake.coverage import CoverageInput, CoverageResult, coverage
from mattone_engine.bake.simulate import horizon_s
from mattone_engine.evidence import ReferenceBake, reference_bakes
from mattone_engine.heat.outcome import first_there, likely_done, series, target_of
from mattone_engine.heat.parameters import parameter_values, parameters
from mattone_engine.heat.run import Bake
from mattone_engine.things.knowledge import GENERAL, Knowledge


@dataclass(frozen=True)
class Times:
    """Likely pull, and when base and rim are as wanted, in s; loss at the pull in %."""

    done: float
    base: float
    rim: float
    loss_pct: float


def times(bake: ReferenceBake, values: dict[str, float] | None = None, *, held: bool = False) -> Times:
    """One reference bake with other parameters, or in a hearth held as it stands at launch."""
    run = Bake(bake.request, values=values)
    if held:
        run.hold_hearth()
    run.advance_to(1.3 * horizon_s(bake.request))
    result = series(run.trace())
    target = target_of(bake.request)
    done = likely_done(result, target)
    last = float(result.t_s[-1])
    base, rim = first_there(result.t_s, result.base_l, target.base), first_there(result.t_s, result.rim_l, target.rim)
    return Times(done.t_s, base if base is not None else last, rim if rim is not None else last, float(result.loss_pct[done.index]))


@dataclass(frozen=True)
class Effect:
    """Mean change in % of pull, base and rim times over all reference bakes, and of the loss in points."""

    name: str
    done_pct: float
    base_pct: float
    rim_pct: float
    loss_points: float
    worst_pct: float


def _effect(name: str, plain: list[Times], changed: list[Times]) -> Effect:
    def mean(of: str) -> float:
        return 100.0 * (math.exp(float(np.mean([math.log(getattr(c, of) / getattr(p, of)) for p, c in zip(plain, changed, strict=True)]))) - 1.0)

    pulls = [100.0 * (c.done / p.done - 1.0) for p, c in zip(plain, changed, strict=True)]
    return Effect(
        name,
        mean("done"),
        mean("base"),
        mean("rim"),
        float(np.mean([c.loss_pct - p.loss_pct for p, c in zip(plain, changed, strict=True)])),
        max(pulls, key=abs),
    )


def sensitivity() -> list[Effect]:
    """Each parameter raised by a tenth of its own value."""
    bakes = reference_bakes()
    plain = [times(bake) for bake in bakes]
    return [_effect(name, plain, [times(bake, parameter_values() | {name: 1.1 * p.value}) for bake in bakes]) for name, p in parameters().items()]


# Effects that can be taken out by a value: what is left out, and how.
WITHOUT = {
    "the base stays stuck (no lift)": {"contact_lift": 1e9, "contact_wet": 200.0},
    "no vapour pipe in the crumb": {"vapour_pipe": 1e-6},
    "no plateau of the browning rate": {"brown_plateau": 1e3},
    "even contact (no spread over the base)": {"contact_sigma": 1e-6},
    "no skin (the faces puff like the crumb)": {"skin": 1e-3},
    "dry crust conducts like moist dough": {"k_dry": 0.45},
}


def ablations() -> list[Effect]:
    """The essential effects taken out one at a time."""
    bakes = reference_bakes()
    plain = [times(bake) for bake in bakes]
    found = [_effect(name, plain, [times(bake, parameter_values() | change) for bake in bakes]) for name, change in WITHOUT.items()]
    found.append(_effect("a hearth that does not answer (held as at launch)", plain, [times(bake, held=True) for bake in bakes]))
    return found


def window_coverage(known: Knowledge = GENERAL, draws: int = 120) -> CoverageResult:
    """The promised 80 % against drawn ovens and doughs, for every reference bake."""
    return coverage(CoverageInput(bakes=tuple(bake.request.model_copy(update={"knowledge": known}) for bake in reference_bakes()), draws=draws))
