"""From the controls a search found to those a cook is told."""

from __future__ import annotations

import math
from collections.abc import Iterable

from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.controls import Controls, Move, Span, goes_down
from mattone_engine.bake.from_controls import turns_often
from mattone_engine.bake.methods import method_of
from mattone_engine.bake.plan_input import PlanInput

# The latest moment a control can be set to, as in Controls.
LATEST_S = 3600.0
# An element lit for less has hardly begun to glow, s.
SHORTEST_LIT_S = 60.0
# Hands do one thing at a time: so far apart a turn stands from what else is done, s.
APART_S = 45.0


def five(seconds: float) -> float:
    """Seconds on the nearest five, from 15 to the latest a control can be set to."""
    return min(LATEST_S, max(15.0, 5.0 * round(seconds / 5.0)))


def closer(c: Controls, name: str) -> Iterable[Controls]:
    """The same handling a little earlier and later, or a level over."""
    for by in (0.85, 1.15):
        if name == "shield" and c.shield is not None:
            yield c.model_copy(update={"shield": Span(on_s=five(by * c.shield.on_s), off_s=c.shield.off_s)})
        elif name == "move" and c.move is not None:
            yield c.model_copy(update={"move": Move(at_s=five(by * c.move.at_s), level=c.move.level)})
        elif name in ("hob_s", "par_bake_s", "cheese_s"):
            yield c.model_copy(update={name: five(by * getattr(c, name))})
    if name == "overhead" and c.overhead is not None and c.overhead.level - 1 > c.level:
        yield c.model_copy(update={"overhead": c.overhead.model_copy(update={"level": c.overhead.level - 1})})


def turn_at(done_s: float) -> float:
    """Turn a little after half time, on a round five seconds."""
    return min(LATEST_S, max(10.0, 5.0 * round(0.55 * done_s / 5.0)))


def finished(chosen: Candidate, request: PlanInput) -> Controls:
    """The found controls with a turn, and what lasts to the end going off at the pull."""
    if request.on_grate:
        return chosen.controls
    # Beside a flame a round is turned all the time; the first turn stands for the others.
    done_s = chosen.done.t_s
    changes: dict[str, object] = {"turn_s": 20.0 if turns_often(request) else turn_beside(chosen.controls, done_s)}
    end_s = min(LATEST_S, 5.0 * math.ceil(done_s / 5.0))
    for name in ("top_element", "shield"):
        span = getattr(chosen.controls, name)
        if span is None:
            continue
        on_s, off_s = span.on_s, min(span.off_s, end_s)
        if name == "top_element" and off_s - on_s < SHORTEST_LIT_S:
            on_s = max(0.0, off_s - SHORTEST_LIT_S)
            off_s = max(off_s, on_s + SHORTEST_LIT_S)
        # What would begin after the pull is left out.
        changes[name] = Span(on_s=on_s, off_s=off_s) if on_s < done_s and off_s > on_s else None
    if chosen.controls.move is not None and chosen.controls.move.at_s >= done_s:
        changes["move"] = None
        if goes_down(chosen.controls):
            # Nobody goes down onto it.
            changes["overhead"] = None
    return chosen.controls.model_copy(update=changes)


def turn_beside(c: Controls, done_s: float) -> float | None:
    """When to turn: a little after half time, apart from what else hands do then; None where no moment is left."""
    busy = [at for at in (c.par_bake_s, c.cheese_s, c.move.at_s if c.move is not None else None) if at is not None]
    wanted = turn_at(done_s)
    free = [
        at
        for at in (wanted, *(at + APART_S for at in busy), *(at - APART_S for at in busy))
        if 15.0 <= at <= done_s - APART_S and all(abs(at - other) >= APART_S for other in busy)
    ]
    return min((five(at) for at in free), key=lambda at: abs(at - wanted), default=None)


def best_of_each_method(ranked: Iterable[Candidate], request: PlanInput) -> list[Candidate]:
    """The best candidate of every method, best first."""
    seen: dict[str, Candidate] = {}
    for candidate in ranked:
        seen.setdefault(method_of(request, candidate.controls), candidate)
    return list(seen.values())
