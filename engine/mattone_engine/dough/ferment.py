"""How dough rises: gas by temperature, yeast and time, in a dough that follows its surroundings slowly.

The rate follows the cardinal temperature model with inflection (Rosso, Lobry & Flandrois 1993); its
lower end lies below 0 C, or fridge doughs could not be explained. Fitted to the reference points of
general practice, which `tests/test_ferment.py` holds it to.
"""

from __future__ import annotations

import math

import numpy as np

from mattone_engine import ENGINE_VERSION
from mattone_engine.dough.rise import FermentInput, Rise, Seen, constants, dose, volume
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


class FermentResult(StrictModel):
    """The rise: t_h, its ratio with an early and a late bound (80 %), the dough's own temperature."""

    t_h: list[float]
    ratio: list[float]
    ratio_fast: list[float]
    ratio_slow: list[float]
    dough_c: list[float]
    windows: list[Window]
    yeast_pct: float
    hours: list[float]
    spread: float
    speed: float
    say: str
    engine: str


def ferment(request: FermentInput) -> FermentResult:
    """The rise of a dough through its steps, with its windows; doses and times solved where asked.

    Raises InputError when what is asked cannot be reached.
    """
    result = solved(request)
    total = sum(step.hours for step in result.steps)
    rise = Rise(result, beyond_h=min(24.0, max(2.0, 0.5 * total)))
    yeast = dose(result)
    speed, spread = observed(result, rise, yeast)
    now = rise.ratio(yeast, speed)
    fast, slow = (rise.ratio(yeast, speed * math.exp(sign * spread)) for sign in (1.0, -1.0))
    windows = [_window(rise, stage, result, yeast, speed, spread) for stage in rise.stages]
    shown = np.linspace(0, rise.t_h.size - 1, min(241, rise.t_h.size)).astype(int)
    return FermentResult(
        t_h=[round(float(v), 3) for v in rise.t_h[shown]],
        ratio=[round(float(v), 3) for v in now[shown]],
        ratio_fast=[round(float(v), 3) for v in fast[shown]],
        ratio_slow=[round(float(v), 3) for v in slow[shown]],
        dough_c=[round(float(v), 1) for v in rise.dough_c[shown]],
        windows=windows,
        yeast_pct=result.yeast_pct,
        hours=[step.hours for step in result.steps],
        spread=round(spread, 4),
        speed=round(speed, 4),
        say=_say(windows),
        engine=ENGINE_VERSION,
    )


def observed(request: FermentInput, rise: Rise, yeast: float) -> tuple[float, float]:
    """Speed against the model's and what spread is left (ln, 80 %) after what the cook saw.

    Each observation gives a speed; it is weighed against what is believed already by their
    variances (a Kalman update in one dimension, with a reading of a volume good to about 6 %).
    """
    mean, variance = math.log(request.speed), (constants().spread / 1.2816) ** 2
    for seen in sorted(request.seen, key=lambda one: one.at_h):
        if seen.ratio < 1.05 or seen.at_h <= 0.05:
            continue

        def at(speed: float, seen: Seen = seen) -> float:
            return float(np.interp(seen.at_h, rise.t_h, rise.ratio(yeast, speed)))

        low, high = math.log(0.2), math.log(5.0)
        for _ in range(40):
            mid = 0.5 * (low + high)
            low, high = (mid, high) if at(math.exp(mid)) < seen.ratio else (low, mid)
        here = 0.5 * (low + high)
        slope = (at(math.exp(here + 0.05)) - at(math.exp(here - 0.05))) / 0.1
        noise = (0.06 * seen.ratio / max(0.05, slope)) ** 2 + 0.03**2
        gain = variance / (variance + noise)
        mean, variance = mean + gain * (here - mean), (1.0 - gain) * variance
    return math.exp(mean), 1.2816 * math.sqrt(variance)


def _window(rise: Rise, stage: tuple[str, float, float], request: FermentInput, yeast: float, speed: float, spread: float) -> Window:
    kind, from_h, to_h = stage
    marks = constants().stage[kind]
    last = stage == rise.stages[-1]

    def reached(ratio: float, by: float) -> float | None:
        values = _alone(rise, from_h, yeast, by)
        there = (rise.t_h >= from_h) & (values >= ratio)
        if not there.any():
            return None
        i = int(np.argmax(there))
        if i == 0:
            return float(rise.t_h[0])
        return float(np.interp(ratio, values[i - 1 : i + 1], rise.t_h[i - 1 : i + 1]))

    at_end = float(np.interp(to_h, rise.t_h, _alone(rise, from_h, yeast, speed)))
    word = "too far" if at_end > marks.too_far else "ripe" if at_end >= marks.ready else "young" if at_end >= 1.25 or not last else "hardly risen"
    return Window(
        stage=kind,
        from_h=from_h,
        to_h=to_h,
        ready_h=reached(marks.ready, speed),
        best_h=reached(marks.best, speed),
        too_far_h=reached(marks.too_far, speed),
        ready_early_h=reached(marks.ready, speed * math.exp(spread)),
        ready_late_h=reached(marks.ready, speed * math.exp(-spread)),
        ratio_at_end=round(at_end, 3),
        word=word,
    )


def _alone(rise: Rise, from_h: float, yeast: float, speed: float) -> np.ndarray:
    """Volume over the start of one stage, as if no other followed."""
    made = rise.made(yeast, speed)
    return volume(np.maximum(0.0, made - np.interp(from_h, rise.t_h, made)))


def _say(windows: list[Window]) -> str:
    last = windows[-1]
    name, verb, goes = {"bulk": ("The dough", "is", "goes"), "balls": ("The balls", "are", "go"), "pan": ("The pan", "is", "goes")}[last.stage]
    if last.word == "too far":
        return f"{name} {goes} too far by the end: less yeast, a colder place, or use it sooner."
    if last.word in ("young", "hardly risen"):
        return f"{name} {verb} not ripe at the end: more yeast, a warmer place, or longer."
    early = next((w for w in windows[:-1] if w.word == "too far"), None)
    if early is not None:
        return f"The {early.stage} goes too far before it is divided: divide sooner, or make it colder."
    return f"{name} {verb} ripe at the end, at x{last.ratio_at_end:.1f}."
