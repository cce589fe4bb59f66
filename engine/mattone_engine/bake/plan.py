"""Plan a bake: search, play the best, say why."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.card import Step, card
from mattone_engine.bake.cautions import Caution, cautions
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.finishing import best_of_each_method, finished
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.hindrance import hindrance
from mattone_engine.bake.limits import Limits
from mattone_engine.bake.methods import method_of, possible_methods
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.reasons import Reason, reasons
from mattone_engine.bake.result import SimulateResult
from mattone_engine.bake.row import deck_back_min
from mattone_engine.bake.search import Search
from mattone_engine.bake.simulate import simulate
from mattone_engine.bake.verdict import WORDS
from mattone_engine.errors import InputError
from mattone_engine.heat.colour import colour_word
from mattone_engine.heat.environment import CAVITY_HEIGHT_M, build_of, level_height_m
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import PALE_L, TargetCrust
from mattone_engine.things import Dough
from mattone_engine.things.base import StrictModel
from mattone_engine.things.text import celsius, clock

# A base that is so much paler than wanted at the best pull there is makes no plan, L*: about a word and a half.
STAYS_PALE_L = 13.0


class SketchInput(StrictModel):
    """A plan to be drawn while something is dragged; the window as factors of the likely pull."""

    plan: PlanInput
    look_from: Annotated[float, Field(gt=0, le=1)]
    window_end: Annotated[float, Field(ge=1, le=5)]


class Option(StrictModel):
    """A plan of one method, told short."""

    method: str
    controls: Controls
    likely_done_s: float
    limited_by: str
    score: float
    word: str
    base_word: str
    rim_word: str
    loss_pct: float


class WantedCrust(StrictModel):
    """The target in numbers, for drawing."""

    base_l: float
    rim_l: float
    cheese_l: float
    core_c: float
    loss_pct: float


class FireBounds(StrictModel):
    """Between what a fire can be set: floor or grate, and its top against that."""

    lowest_c: float
    hottest_c: float
    dome_low_k: float
    dome_high_k: float
    dome_over_k: float


class PlanResult(StrictModel):
    """The plan as it is played, the methods ranked, and why."""

    controls: Controls
    method: str
    word: str
    # What keeps it from a better word; empty where nothing does.
    hindrance: str = ""
    result: SimulateResult
    plans: list[Option]
    runner_up: str
    reasons: list[Reason]
    cautions: list[Caution]
    card: list[Step]
    wanted: WantedCrust
    searched: bool
    # Minutes after the pull until the deck can take the next one.
    deck_back_min: float | None
    # The methods this rig allows, and the dough as it is baked.
    methods: list[str]
    dough: Dough
    # Empty and 0 over a fire.
    level_heights_cm: list[float]
    cavity_height_cm: float
    fire: FireBounds | None
    engine: str


def plan(request: PlanInput, *, spread: tuple[float, float] | None = None) -> PlanResult:
    """The best plan, or with `controls` given, those controls played and explained.

    With `spread` the answer is a sketch for something being dragged: the window keeps those
    factors of the likely pull, and the reasons, which need other bakes, are left out. Raises InputError when nothing this hearth can do colours the crust.
    """
    search = Search(request)
    if request.controls is None:
        ranked = search.run()
        chosen = ranked[0]
        refuse_if_hopeless(search, ranked)
        controls = chosen.controls
    else:
        controls = request.controls
        chosen = search.try_controls(controls, whole=True)
        if chosen.scorched:
            raise InputError("controls.setpoint_c", _scorched(search, chosen))
        ranked = [chosen]
    spec = bake_of(request, controls)
    result = simulate(spec, spread=spread)
    back_min = deck_back_min(spec, result.likely_done_s, heat_up(spec)) if spread is None else None
    options = [option(candidate, request) for candidate in best_of_each_method(ranked, request)]
    if request.controls is None:
        # The methods that were not good enough to be baked whole: as their quick bakes told, where their word is certain.
        named = {one.method for one in options}
        others = [c for c in best_of_each_method(search.ranked(), request) if method_of(request, c.controls) not in named]
        options += [option(search.as_opened(c), request) for c in others]
        options.sort(key=lambda one: (WORDS.index(one.word), one.score))
    found = cautions(request, controls)
    heights, cavity_cm = _racks(request)
    return PlanResult(
        controls=controls,
        method=method_of(request, controls),
        word=chosen.word,
        hindrance=hindrance(chosen, search),
        result=result,
        plans=options,
        runner_up=runner_up(options),
        reasons=reasons(search, chosen) if spread is None else [],
        cautions=found,
        card=card(request, controls, result, found, back_min),
        deck_back_min=back_min,
        wanted=_wanted(search.target),
        searched=request.controls is None,
        methods=possible_methods(request, search.limits),
        dough=spec.dough,
        level_heights_cm=heights,
        cavity_height_cm=cavity_cm,
        fire=_fire(request, search.limits),
        engine=ENGINE_VERSION,
    )


def sketch(request: SketchInput) -> PlanResult:
    """The plan without reasons and with the window it is given."""
    return plan(request.plan, spread=(request.look_from, request.window_end))


def _racks(request: PlanInput) -> tuple[list[float], float]:
    """Heights of the levels over the floor, and of the cavity, cm."""
    if request.fire is not None:
        return [], 0.0
    levels, build = request.hearth.levels, build_of(request.hearth)
    return [round(100 * level_height_m(level, levels, build), 1) for level in range(1, levels + 1)], round(100 * CAVITY_HEIGHT_M * build.height, 1)


def _fire(request: PlanInput, limits: Limits) -> FireBounds | None:
    fire = request.fire
    if fire is None:
        return None
    over = request.controls.dome_over_k if request.controls is not None else None
    return FireBounds(
        lowest_c=fire.lowest_c,
        hottest_c=limits.hottest_c,
        dome_low_k=fire.dome_low_k,
        dome_high_k=fire.dome_high_k,
        dome_over_k=over if over is not None else fire.dome_usual_k,
    )


def option(candidate: Candidate, request: PlanInput) -> Option:
    """A candidate told short, with the controls a cook would be told."""
    return Option(
        method=method_of(request, candidate.controls),
        controls=finished(candidate, request),
        likely_done_s=candidate.done.t_s,
        limited_by=candidate.done.limited_by,
        score=round(candidate.score, 3),
        word=candidate.word,
        base_word=colour_word(candidate.base_l),
        rim_word=colour_word(candidate.rim_l),
        loss_pct=round(candidate.loss_pct, 1),
    )


def runner_up(options: list[Option]) -> str:
    """The best plan of another method in one line, or nothing."""
    if len(options) < 2:
        return ""
    other = options[1]
    place = f" on level {other.controls.level}" if "level" not in other.method else ""
    return f"{other.method}{place}: {clock(other.likely_done_s)}, base {other.base_word}, rim {other.rim_word}"


def refuse_if_hopeless(search: Search, ranked: list[Candidate]) -> None:
    """Say that no plan exists when even the best one leaves the base pale."""
    best = ranked[0]
    if best.scorched:
        raise InputError("parchment", _scorched(search, best))
    if best.no_pull:
        where = "methods" if search.request.methods else "hearth.max_setpoint_c"
        this = "this" if best.no_pull.startswith("burns") else "this is"
        upto = celsius(search.limits.hottest_c)
        raise InputError(
            where, f"However it is set, up to {upto}, {this} {best.no_pull}. A {search.style.name} wants another rig, a thinner base or a lighter load."
        )
    if best.base_l > min(PALE_L, search.target.base + STAYS_PALE_L):
        low, high = search.style.deck_c
        pale = colour_word(best.base_l)
        if search.request.methods:
            raise InputError("methods", f"By {search.request.methods[0]} the base stays {pale} here, after {clock(best.done.t_s)}; choose another method.")
        limits = search.limits
        other = {"paper": "leave the paper out", "coating": "use a bare pan"}.get(limits.ended_by, "use a hotter hearth")
        raise InputError(
            "parchment" if limits.ended_by == "paper" else "pan" if limits.ended_by == "coating" else "hearth.max_setpoint_c",
            f"At {celsius(limits.hottest_c)} the base does not brown: it is still {pale} after "
            f"{clock(best.done.t_s)}. A {search.style.name} wants {celsius(low)} to {celsius(high)}; {other}.",
        )


def _scorched(search: Search, found: Candidate) -> str:
    limit = celsius(search.request.parchment_limit_c)
    return f"The deck under the paper gets to {celsius(found.deck_c)}, more than its printed limit, {limit}; set it lower, or leave the paper out."


def _wanted(target: TargetCrust) -> WantedCrust:
    return WantedCrust(base_l=target.base, rim_l=target.rim, cheese_l=target.cheese, core_c=target.core_c, loss_pct=target.loss_pct)
