"""What is told at any moment of a bake: how it stands, when it is done, and what to do, best first."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.from_controls import turns_often
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import deck_back_min
from mattone_engine.bake.simulate import promised, quick_outcome
from mattone_engine.heat.colour import cheese_word, colour_word
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import TargetCrust, target_of, value_at
from mattone_engine.live.causes import causes, what_is_off
from mattone_engine.live.ensemble import Ensemble
from mattone_engine.live.following import Baked, Interval, follow, pull_window, within
from mattone_engine.live.hands import HandStep, hands_before
from mattone_engine.live.happened import as_if_done, as_it_was, is_routine, overdue, planned, still_planned
from mattone_engine.live.heating import Readiness, heating_up
from mattone_engine.live.journal import Journal, LiveInput, Seen
from mattone_engine.live.misread import asked, without_misread
from mattone_engine.live.night import baking, night_of, untold_of
from mattone_engine.live.offers import Moment, offered
from mattone_engine.live.possible import possible
from mattone_engine.live.say import TAKE_IT_OUT, advice, doubts, effect, keeping_pace, label, planned_label, question, window_moved
from mattone_engine.live.weighing import GO_ON, PULL_NOW, Weighed, weigh
from mattone_engine.things import Event, SimulateInput
from mattone_engine.things.base import StrictModel
from mattone_engine.things.knowledge import Knowledge

# A crust that is wanted this pale, L* below the dough's own, has hardly a way to come.
LEAST_WAY_L = 6.0
# Base and rim stand apart when so sure, and by so much of their way.
SURE, APART = 0.7, 0.1


class LikelyRange(StrictModel):
    """A likely value with its 80 %."""

    low: float
    likely: float
    high: float


class ToDo(StrictModel):
    """Something that can be done now: what it brings at the pull, and the controls to tell the journal when it is done.

    gain_l: how much nearer the wanted crust it ends than going on does, L*.
    """

    key: str
    label: str
    effect: str
    gain_l: float
    pull_s: float
    base_word: str
    rim_word: str
    cheese_word: str
    loss_pct: float
    gives: list[Event]


class Coming(StrictModel):
    """A planned control that was neither done nor left out, at its planned second after launch; it may be overdue.

    repeats: one of many alike, called at its second and then let go.
    """

    do: str
    at_s: float
    label: str
    gives: Event
    repeats: bool = False


class Question(StrictModel):
    """A planned step that is due and of which nobody said whether it was done; gives: what to log where it was."""

    text: str
    gives: Event


class Course(StrictModel):
    """How the crust most likely comes along: L* at seconds after launch, for drawing."""

    t_s: list[float]
    base_l: list[float]
    rim_l: list[float]


class Afterwards(StrictModel):
    """For when nobody can be asked: how long after a pull the deck is back, s (None: it has none), and the window of the next one's pull."""

    back_s: float | None
    pull: LikelyRange


class LiveResult(StrictModel):
    """Before the launch: `launch`, and what a launch at its moment brings. After it: the crust now (L*), the window of the pull (s after

    launch), and actions, best first. pizza: which of the evening it is about, from 1. planned: all of the plan; coming: what of it is
    still to be done, the first first; asks: what of it is overdue and unconfirmed. hands: what is to be done before the launch.
    """

    launched: bool
    pizza: int = 1
    planned: list[Coming] = []
    hands: list[HandStep] = []
    next: Afterwards | None = None
    launch: Readiness | None = None
    pull: LikelyRange | None = None
    planned_s: float | None = None
    base_l: LikelyRange | None = None
    rim_l: LikelyRange | None = None
    cheese_l: LikelyRange | None = None
    base_word: str = ""
    rim_word: str = ""
    cheese_word: str = ""
    deck_c: LikelyRange | None = None
    says: list[str]
    coming: list[Coming] = []
    asks: list[Question] = []
    course: Course | None = None
    actions: list[ToDo] = []
    engine: str


def live(request: LiveInput) -> LiveResult:
    """The answer to everything told so far; the same for the same input, in whatever order it was told."""
    request, misread = without_misread(request)
    found = _answer(request)
    return found.model_copy(update={"says": [*found.says, *asked(request, misread)]}) if misread else found


def _answer(request: LiveInput) -> LiveResult:
    spec = as_it_was(request)
    known, journal = request.plan.knowledge, request.journal
    if journal.launched_s is None:
        launch, says, likely = heating_up(request, spec)
        window = as_promised(request, pull_window(likely, known), is_untold=not request.journal.readings)
        return LiveResult(
            launched=False,
            pizza=len(request.earlier) + 1,
            planned=as_coming(request, planned(request).events),
            hands=hands_before(request.plan, request.controls),
            next=Afterwards(back_s=_back_s(planned(request)), pull=_range(window)),
            launch=launch,
            pull=_range(window),
            planned_s=round(planned_pull_s(request), 1),
            says=says,
            coming=coming(request),
            course=_course(likely, window.high),
            engine=ENGINE_VERSION,
        )
    night, seed = night_of(request), request.seed + len(request.earlier)
    if_done = as_if_done(request)
    first = untold_of(spec, known, night, journal.launched_s, journal.readings, seed, if_done)
    ensemble = follow(spec, known, journal, seed, first=first, bake=baking(spec, night, journal.launched_s, if_done))
    window, planned_s = as_promised(request, pull_window(ensemble, known)), planned_pull_s(request)
    now_s, target = request.now_s, target_of(spec)
    uneven = any(sign.kind == "one_side_darker" for sign in journal.signs)
    left = still_planned(planned(request).events, journal)
    moment = Moment(now_s, window, planned_s, cavity_k(ensemble, known), left, uneven)
    actions = possible(request.plan, spec, now_s, window.likely - now_s, uneven=uneven)
    weighed = offered(weigh(ensemble, actions, now_s, seed), moment)
    is_late = now_s > window.high
    base, rim, cheese = (_now(ensemble, name, now_s) for name in ("base_l", "rim_l", "cheese_l"))
    return LiveResult(
        launched=True,
        pizza=len(request.earlier) + 1,
        planned=as_coming(request, planned(request).events),
        hands=hands_before(request.plan, request.controls),
        next=Afterwards(back_s=_back_s(planned(request)), pull=_range(as_promised(request, pull_window(first, known)))),
        pull=_range(Interval(max(now_s, window.low), max(now_s, window.likely), max(now_s, window.high))),
        planned_s=round(planned_s, 1),
        base_l=_range(base),
        rim_l=_range(rim),
        cheese_l=_range(cheese),
        base_word=colour_word(base.likely),
        rim_word=colour_word(rim.likely),
        cheese_word=cheese_word(cheese.likely) if target.weight_cheese > 0.0 else "",
        deck_c=_range(_now(ensemble, "deck_c", now_s)),
        says=[TAKE_IT_OUT]
        if is_late
        else [
            *keeping_pace(*apart(ensemble, target, now_s)),
            *window_moved(planned_s, window),
            *what_is_off(causes(spec, ensemble, journal), ensemble, _planned_deck_c(request) if night.row == () else None),
            *doubts(*_latest(ensemble, journal)),
            *advice(journal, request.plan),
        ],
        coming=[] if is_late else coming(request),
        asks=[] if is_late else [Question(text=question(event, request.together), gives=event) for event in overdue(request)],
        course=_course(ensemble, window.high),
        actions=[_todo(one, weighed, spec, request.plan, is_late=is_late) for one in weighed],
        engine=ENGINE_VERSION,
    )


def as_promised(request: LiveInput, found: Interval, *, is_untold: bool = False) -> Interval:
    """A window of the draws as the plan would tell it: at a launch as planned, with nothing read or seen, it is the plan's, to the second.

    ln(time) is mapped evenly: what moves the draws' window moves what is told. is_untold: nothing was told yet of a first pizza.
    """
    plan, draws = _at_launch(request.plan, request.controls, request.seed, request.together)
    if is_untold and not request.earlier:
        return plan
    likely = math.log(plan.likely / draws.likely) + math.log(found.likely)
    below = math.log(plan.likely / plan.low) / max(1e-6, math.log(draws.likely / draws.low))
    above = math.log(plan.high / plan.likely) / max(1e-6, math.log(draws.high / draws.likely))
    low, high = likely - below * math.log(found.likely / found.low), likely + above * math.log(found.high / found.likely)
    return Interval(math.exp(low), math.exp(likely), math.exp(high))


@lru_cache(maxsize=64)
def _at_launch(plan: PlanInput, controls: Controls, seed: int, together: int) -> tuple[Interval, Interval]:
    """The window of a bake launched as planned, by the plan and by the draws."""
    ask = LiveInput(plan=plan, controls=controls, now_s=0.0, seed=seed, together=together)
    spec, night = planned(ask), night_of(ask)
    target, heated = target_of(spec), heat_up(spec)
    done, result = quick_outcome(spec, target, heated=heated, whole=True)
    low, high = promised(spec, target, heated, result, done)
    launched = Journal(launched_s=60.0 * spec.preheat_min)
    draws = untold_of(spec, plan.knowledge, night, 60.0 * spec.preheat_min, (), seed)
    draws = follow(spec, plan.knowledge, launched, seed, first=draws)
    return Interval(max(1.0, low), done.t_s, max(done.t_s, high)), pull_window(draws, plan.knowledge)


def planned_pull_s(request: LiveInput) -> float:
    """When the frozen plan, baked as told, is likely done, s."""
    return _pull_s(planned(request))


@lru_cache(maxsize=64)
def _pull_s(spec: SimulateInput) -> float:
    return quick_outcome(spec, target_of(spec), whole=True)[0].t_s


@lru_cache(maxsize=64)
def _back_s(spec: SimulateInput) -> float | None:
    minutes = deck_back_min(spec, _pull_s(spec), heat_up(spec))
    return None if minutes is None else 60.0 * minutes


def as_coming(request: LiveInput, events: Sequence[Event]) -> list[Coming]:
    """Planned controls, in words."""
    return [
        Coming(
            do=event.do,
            at_s=event.at_s,
            label=planned_label(event, request.together, turns_often=turns_often(request.plan)),
            gives=event,
            repeats=is_routine(request.plan, event),
        )
        for event in events
    ]


def coming(request: LiveInput) -> list[Coming]:
    """What of the plan is left, in words."""
    return as_coming(request, still_planned(planned(request).events, request.journal))


def _latest(ensemble: Ensemble[Baked], journal: Journal) -> tuple[Seen | None, dict[str, float]]:
    """The latest look, and how each part most likely stood then."""
    latest = max(journal.seen, key=lambda look: look.at_s, default=None)
    parts = {"base": "base_l", "rim": "rim_l", "cheese": "cheese_l"}
    return latest, {part: _now(ensemble, name, latest.at_s).likely for part, name in parts.items()} if latest is not None else {}


def _course(ensemble: Ensemble[Baked], until_s: float) -> Course:
    """The mean of the draws every ten seconds, to a while past the window."""
    t_s = np.arange(0.0, 1.15 * until_s + 10.0, 10.0)
    base, rim = (
        np.average([np.interp(t_s, one.result.t_s, getattr(one.result, name)) for one in ensemble.told], axis=0, weights=ensemble.weights)
        for name in ("base_l", "rim_l")
    )
    return Course(t_s=t_s.tolist(), base_l=[round(float(v), 1) for v in base], rim_l=[round(float(v), 1) for v in rim])


def apart(ensemble: Ensemble[Baked], target: TargetCrust, now_s: float) -> tuple[float, bool]:
    """By how much more of its way to the wanted colour the base has come by now than the rim (negative: less), and whether that is sure."""

    def come(one: Baked, values: np.ndarray, aim: float) -> float:
        return (float(values[0]) - value_at(one.result.t_s, values, now_s)) / max(LEAST_WAY_L, float(values[0]) - aim)

    leads = np.array([come(one, one.result.base_l, target.base) - come(one, one.result.rim_l, target.rim) for one in ensemble.told])
    middle = within(leads, ensemble.weights).likely
    sure = max(float(ensemble.weights[leads > 0.0].sum()), float(ensemble.weights[leads < 0.0].sum())) >= SURE
    return middle, sure and abs(middle) >= APART


def cavity_k(ensemble: Ensemble[Baked], known: Knowledge) -> float:
    """By how much the oven likely is hotter than it was planned to be, K."""
    return float(ensemble.weights @ np.array([one.truth.variation.dial_k for one in ensemble.told])) - known.dial_k.mean


def _planned_deck_c(request: LiveInput) -> float | None:
    """The deck that the plan foresees at launch, C; None where there is none."""
    spec = planned(request)
    return float(heat_up(spec).deck_c[-1]) if spec.has_deck else None


def _now(ensemble: Ensemble[Baked], name: str, now_s: float) -> Interval:
    """A quantity of the series at now_s over the draws; where a draw's bake has ended, as it ended."""
    values = np.array([value_at(one.result.t_s, getattr(one.result, name), now_s) for one in ensemble.told])
    return within(values, ensemble.weights)


def _range(found: Interval) -> LikelyRange:
    return LikelyRange(low=round(found.low, 1), likely=round(found.likely, 1), high=round(found.high, 1))


def _todo(one: Weighed, every: list[Weighed], spec: SimulateInput, request: PlanInput, *, is_late: bool) -> ToDo:
    going_on = next((other for other in every if other.action is GO_ON), one)
    pull_s, base_l, rim_l, cheese_l, loss = _mean(one)
    return ToDo(
        key=one.action.key,
        label="Take it out now" if is_late else label(one.action, spec),
        effect=effect(_mean(one), _mean(going_on), is_now=one.action is PULL_NOW, is_same=one is going_on),
        gain_l=round(one.gain_l, 2),
        pull_s=round(pull_s, 1),
        base_word=colour_word(base_l),
        rim_word=colour_word(rim_l),
        cheese_word=cheese_word(cheese_l) if request.toppings.mass_g > 0 else "",
        loss_pct=round(loss, 1),
        gives=list(one.action.gives),
    )


def _mean(one: Weighed) -> tuple[float, float, float, float, float]:
    """Its mean pull, base, rim, cheese and loss."""
    rows = np.array([(bake.pull_s, bake.base_l, bake.rim_l, bake.cheese_l, bake.loss_pct) for bake in one.bakes])
    return tuple(float(value) for value in np.median(rows, axis=0))  # type: ignore[return-value]
