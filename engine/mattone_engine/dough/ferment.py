"""How dough rises: gas by temperature, yeast and time, in a dough that follows its surroundings slowly.

The rate follows the cardinal temperature model with inflection (Rosso, Lobry & Flandrois 1993); its
lower end lies below 0 C, or fridge doughs could not be explained. Fitted to the reference points of
general practice, which `tests/test_ferment.py` holds it to.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from mattone_engine import ENGINE_VERSION
from mattone_engine.dough.rise import FermentInput, Rise, Seen, StageSpan, constants, dose
from mattone_engine.dough.solve_rise import solved
from mattone_engine.things.base import StrictModel


class Window(StrictModel):
    """Hours after mixing at which a stage is ready, best and too far; null: not within its steps and a day after."""

    stage: str
    from_h: float
    to_h: float
    ready_h: float | None
    best_h: float | None
    too_far_h: float | None
    ready_early_h: float | None
    ready_late_h: float | None
    ratio_at_end: float
    word: str
    # Whether it ends well past its best, though it is usable.
    past: bool = False
    # Volumes over its start from which it is ready, and at which it is best; null: told before they were.
    ready: float | None = None
    best: float | None = None


class FermentResult(StrictModel):
    """The rise: t_h, its ratio with an early and a late bound (80 %), the dough's own temperature."""

    t_h: list[float]
    ratio: list[float]
    ratio_fast: list[float]
    ratio_slow: list[float]
    dough_c: list[float]
    windows: list[Window]
    yeast_pct: float
    starter_pct: float = 0.0
    hours: list[float]
    spread: float
    speed: float
    # What a sighting far off the model means: dead or too cold, or past already; null: nothing.
    doubt: str | None = None
    say: str
    # Whether nothing in what it says wants to be changed.
    good: bool = True
    engine: str


def ferment(request: FermentInput) -> FermentResult:
    """The rise of a dough through its steps, with its windows; doses and times solved where asked.

    Raises InputError when what is asked cannot be reached.
    """
    result = solved(request)
    total = sum(step.hours for step in result.steps)
    rise = Rise(result, beyond_h=min(24.0, max(2.0, 0.5 * total)))
    yeast = dose(result)
    believed = observed(result, yeast)
    speed, spread = believed.speed, believed.spread
    now = rise.ratio(yeast, speed)
    fast, slow = (rise.ratio(yeast, speed * math.exp(sign * spread)) for sign in (1.0, -1.0))
    windows = [_window(rise, stage, yeast, speed, spread) for stage in rise.stages]
    shown = np.linspace(0, rise.t_h.size - 1, min(241, rise.t_h.size)).astype(int)
    return FermentResult(
        t_h=[round(float(v), 3) for v in rise.t_h[shown]],
        ratio=[round(float(v), 3) for v in now[shown]],
        ratio_fast=[round(float(v), 3) for v in fast[shown]],
        ratio_slow=[round(float(v), 3) for v in slow[shown]],
        dough_c=[round(float(v), 1) for v in rise.dough_c[shown]],
        windows=windows,
        yeast_pct=result.yeast_pct,
        starter_pct=result.starter_pct,
        hours=[step.hours for step in result.steps],
        spread=round(spread, 4),
        speed=round(speed, 4),
        doubt=believed.doubt,
        say=_say(windows, dosed=request.solve != "nothing"),
        good=windows[-1].word == "ripe" and not windows[-1].past and _before_divided(windows) is None,
        engine=ENGINE_VERSION,
    )


@dataclass(frozen=True)
class Believed:
    """Speed against the model's, what spread is left (ln, 80 %), and what a sighting that fits no usual dough means."""

    speed: float
    spread: float
    doubt: str | None


# How good a look at a volume is (share of it, and least), and how far a dough that is not as usual may be off (ln, one sigma).
LOOK, LEAST_LOOK = 0.06, 0.08
USUAL, FAR_OFF = 0.95, 0.9
LN_SPEEDS = np.linspace(math.log(0.05), math.log(6.0), 41)
# A reading from here is "at least": past this a volume says no more. Up to there it is "no more than": hardly moved.
AT_LEAST, AT_MOST = 3.6, 1.08


def observed(request: FermentInput, yeast: float) -> Believed:
    """What is believed of a dough's speed after what the cook saw, by Bayes' rule over a grid of speeds.

    Most doughs are near the model, a few are far off. A look at a volume is good to about 6 %; one at the
    very end of what can be seen is a bound: hardly moved, or as far as it goes.
    """
    sigma = constants().spread / 1.2816
    off = LN_SPEEDS - math.log(request.speed)
    weights = USUAL * np.exp(-0.5 * (off / sigma) ** 2) / sigma + (1.0 - USUAL) * np.exp(-0.5 * (off / FAR_OFF) ** 2) / FAR_OFF
    # By when it was seen, whenever it was told.
    seen = sorted((one for one in request.seen if one.at_h > 0.05), key=lambda one: one.at_h)
    if not seen:
        return Believed(request.speed, constants().spread, None)
    coarse = Rise(request, most_points=300)
    ratios = np.array([np.interp([one.at_h for one in seen], coarse.t_h, coarse.ratio(yeast, math.exp(ln))) for ln in LN_SPEEDS])
    for i, one in enumerate(seen):
        told = max(LEAST_LOOK, LOOK * one.ratio)
        gap = (ratios[:, i] - one.ratio) / told
        if one.ratio >= AT_LEAST:
            gap = np.minimum(0.0, (ratios[:, i] - AT_LEAST) / told)
        elif one.ratio <= AT_MOST:
            gap = np.maximum(0.0, gap)
        # A look can be wrong: no single one rules anything out for good.
        weights = weights * (np.exp(-0.5 * gap**2) + 1e-6)
    weights /= weights.sum()
    mean = float(weights @ LN_SPEEDS)
    spread = math.sqrt(float(weights @ (LN_SPEEDS - mean) ** 2) + 0.02**2)
    should = float(np.interp(seen[-1].at_h, coarse.t_h, coarse.ratio(yeast, request.speed)))
    return Believed(math.exp(mean), min(constants().spread, 1.2816 * spread), _doubt(seen[-1], should, math.exp(mean), request.speed))


# A dough that should stand there by now and has hardly moved is doubted.
SHOULD_STAND_AT, HARDLY_MOVED = 1.6, 1.2


def _doubt(last: Seen, should: float, speed: float, before: float) -> str | None:
    """What a cook should think of a dough that is far off what it was taken for. should: where it would stand by now."""
    if speed < 0.5 * before and last.ratio <= HARDLY_MOVED and should >= SHOULD_STAND_AT:
        return (
            f"Hardly moved after {last.at_h:.1f} h: its yeast is dead, or the dough is colder than you think. Feel it; put it at {{26 C}} for an hour, "
            "and if it still does not move, knead in fresh yeast."
        )
    if last.ratio >= AT_LEAST:
        return "It has risen as far as it goes: divide it, or bake it, now."
    if speed > 2.0 * before:
        return "Far faster than usual: it is warmer than you think, or has more yeast. Look again soon."
    return None


def _window(rise: Rise, stage: StageSpan, yeast: float, speed: float, spread: float) -> Window:
    ready, best = rise.marks(stage, yeast, speed)
    last = stage == rise.stages[-1]

    def reached(values: np.ndarray, mark: float) -> float | None:
        there = (rise.t_h >= stage.from_h) & (values >= mark)
        if not there.any():
            return None
        i = int(np.argmax(there))
        if i == 0 or rise.t_h[i - 1] < stage.from_h:
            return float(rise.t_h[i])
        return float(np.interp(mark, values[i - 1 : i + 1], rise.t_h[i - 1 : i + 1]))

    now = rise.alone(stage.from_h, yeast, speed)
    at_end = float(np.interp(stage.to_h, rise.t_h, now))
    used = rise.worn(yeast, speed)
    ready_h, too_far_h = reached(now, ready), reached(used, 1.0)
    was_ready = ready_h is not None and ready_h <= stage.to_h
    if float(np.interp(stage.to_h, rise.t_h, used)) > 1.0:
        word = "too far"
    elif was_ready:
        word = "ripe"
    else:
        word = "young" if at_end >= 1.25 or not last else "hardly risen"
    return Window(
        stage=stage.kind,
        from_h=stage.from_h,
        to_h=stage.to_h,
        ready_h=ready_h,
        best_h=reached(now, best),
        too_far_h=too_far_h,
        ready_early_h=reached(rise.alone(stage.from_h, yeast, speed * math.exp(spread)), ready),
        ready_late_h=reached(rise.alone(stage.from_h, yeast, speed * math.exp(-spread)), ready),
        ratio_at_end=round(at_end, 3),
        word=word,
        past=word == "ripe" and at_end - 1.0 > PAST * rise.holds * (constants().stage[stage.kind].best - 1.0),
        ready=round(ready, 3),
        best=round(best, 3),
    )


# Beyond its best by so much of what it rises for it, a dough is past it: where a rest was enough, too.
PAST = 1.44


def _before_divided(windows: list[Window]) -> Window | None:
    """The first stage before the last that goes too far, or past its best."""
    return next((w for w in windows[:-1] if w.word == "too far" or w.past), None)


def _say(windows: list[Window], *, dosed: bool) -> str:
    last = windows[-1]
    name, verb, goes = {"bulk": ("The dough", "is", "goes"), "balls": ("The balls", "are", "go"), "pan": ("The pan", "is", "goes")}[last.stage]
    nearest = "No dose suits every stage; this one comes nearest. " if dosed else ""
    if last.word == "too far":
        return f"{nearest}{name} {goes} too far by the end: less yeast, a colder place, or use {'them' if last.stage == 'balls' else 'it'} sooner."
    if last.word in ("young", "hardly risen"):
        return f"{nearest}{name} {verb} not ripe at the end: more yeast, a warmer place, or longer."
    early = _before_divided(windows)
    if early is not None and early.word == "too far":
        return f"{nearest}The {early.stage} goes too far before it is divided: divide sooner, or make it colder."
    if last.past:
        whose = "their" if last.stage == "balls" else "its"
        return f"{nearest}{name} {verb} past {whose} best by the end, at x{last.ratio_at_end:.1f}, and still good to use: less yeast, or sooner, is better."
    if early is not None:
        what = f"The {early.stage} is past its best before it is divided, at x{early.ratio_at_end:.1f}: less yeast, or divide it sooner"
        return f"{nearest}{what}. {name} {verb} still ripe at the end."
    return f"{name} {verb} ripe at the end, at x{last.ratio_at_end:.1f}."
