"""What a simulated bake answers: the JSON of engine.md 8."""

from __future__ import annotations

from mattone_engine.bake.moments import Moment
from mattone_engine.things.base import StrictModel


class Half(StrictModel):
    """One half of a half-and-half pizza: its cheese, and what is still wet under its sauce."""

    cheese_l: float
    cheese_word: str
    gummy_kg_m2: float
    under_sauce_word: str


class AtDone(StrictModel):
    """The crust at the likely pull. hot_rim_l is the rim on the hot side of an uneven hearth; edge: against a pan's wall, where there is one."""

    base_l: float
    rim_l: float
    cheese_l: float
    base_word: str
    rim_word: str
    cheese_word: str
    core_c: float
    loss_pct: float
    base_dry_mm: float
    dark_spot_pct: float
    deck_c: float
    hot_rim_l: float
    crisp_word: str
    crumb_word: str
    gummy_kg_m2: float
    under_sauce_word: str
    halves: list[Half]
    edge_l: float | None = None
    edge_word: str = ""


class Traces(StrictModel):
    """Everything against seconds after launch; all lists have the same length, edge_l none where there is no wall."""

    t_s: list[float]
    deck_c: list[float]
    air_c: list[float]
    base_c: list[float]
    base_l: list[float]
    rim_l: list[float]
    cheese_l: list[float]
    core_c: list[float]
    loss_pct: list[float]
    base_dry_mm: list[float]
    dark_spot_pct: list[float]
    gummy_kg_m2: list[float]
    edge_l: list[float] = []


class PreheatTrace(StrictModel):
    """Deck face and air against seconds after heat on."""

    t_s: list[float]
    deck_c: list[float]
    air_c: list[float]
    pan_c: list[float] | None = None


class Closure(StrictModel):
    """Relative error of the energy and water balance over the whole run."""

    energy: float
    water: float


class Since(StrictModel):
    """A word that holds from a moment on, s after launch, until the next."""

    from_s: float
    word: str


class SimulateResult(StrictModel):
    """One bake, told whole.

    look_from_s to not_later_s holds the right moment in eight bakes of ten. no_pull: why there is no moment to pull, likely_done_s then
    being only where the crust was looked at. low_confidence: why the window is wider than elsewhere. unpredictable: where it is so wide
    that the time cannot be predicted, why, and what would help.
    """

    likely_done_s: float
    look_from_s: float
    not_later_s: float
    no_pull: str = ""
    low_confidence: str = ""
    unpredictable: str = ""
    burns_s: float | None
    limited_by: str
    distance: float
    deck_at_launch_c: float
    at_done: AtDone
    traces: Traces
    bite: list[Since] = []
    crumb: list[Since] = []
    moments: list[Moment] = []
    preheat: PreheatTrace
    closure: Closure
    engine: str
