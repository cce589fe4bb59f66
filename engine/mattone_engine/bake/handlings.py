"""What hands can do during a bake, as controls to be tried."""

from __future__ import annotations

from collections.abc import Iterable

from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.controls import Controls, Move, Span
from mattone_engine.bake.finishing import LATEST_S, five
from mattone_engine.bake.limits import Limits
from mattone_engine.bake.methods import may_go_down
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.settling import LONGEST_PREHEAT_MIN
from mattone_engine.things import Overhead


def handlings(request: PlanInput, limits: Limits, base: Candidate) -> Iterable[Controls]:
    """Each handling this rig allows, on the controls of one bake, at a few moments of it."""
    # What is done by hand is done within the hour that controls reach.
    c, done = base.controls, min(base.done.t_s, LATEST_S / 1.8)
    levels = request.hearth.levels

    def but(**changes: object) -> Controls:
        return c.model_copy(update=changes)

    if limits.may_hob:
        for seconds in (60.0, 120.0, 200.0):
            yield but(hob_s=seconds)
            if c.top_element is not None:
                # Two handlings at once are one too many where either does.
                yield but(hob_s=seconds, top_element=None)
    if request.toppings.mass_g > 0:
        yield but(par_bake_s=five(max(0.3 * done, min(0.7 * done, done - 240.0))))
        for share in (0.3, 0.55):
            yield but(par_bake_s=five(share * done))
            yield but(cheese_s=five(share * done))
    if levels >= 2:
        for share in (0.45, 0.7):
            below = min(c.level, levels - 1)
            yield but(level=below, top_element=None, shield=Span(on_s=five(share * done), off_s=five(1.8 * done)))
            for level in {max(1, c.level - 2), min(levels, c.level + 2)} - {c.level}:
                yield but(move=Move(at_s=five(share * done), level=level))
    if c.top_element is None:
        yield from second_decks(request, limits, c, done)


# So long under a glowing element colours the rim of a pizza that bakes on without it, s.
RIM_S = (60.0, 90.0, 130.0)


def second_decks(request: PlanInput, limits: Limits, c: Controls, done_s: float) -> Iterable[Controls]:
    """Each spare deck as a ceiling: near, and on the highest level; and the pizza moved onto it, up or down."""
    levels = request.hearth.levels
    yield from _down(request, limits, c, done_s)
    if c.level == levels > 1:
        # Nothing hangs above the top level: the pizza goes lower.
        c = c.model_copy(update={"level": max(1, levels - 2)})
    for spare in request.spares[:2]:
        for level in {min(levels, c.level + 2), levels}:
            if level > c.level and spare.traits.ceiling:
                second = Overhead(kind=spare.kind, thickness_mm=spare.thickness_mm, level=level)
                under = c.model_copy(update={"overhead": second, "preheat_min": min(LONGEST_PREHEAT_MIN, c.preheat_min + 15.0)})
                yield under
                # The pizza itself may go up to it: base on the one below, rim under the roof.
                if request.pan is None:
                    yield under.model_copy(update={"move": Move(at_s=five(0.6 * done_s), level=level)})


def _down(request: PlanInput, limits: Limits, c: Controls, done_s: float) -> Iterable[Controls]:
    """High under the roof or its element first, then down onto a second deck that is hot still."""
    if not may_go_down(request):
        return
    high = request.hearth.levels - 1
    low = high - 2
    spare = next(one for one in request.spares if one.traits.ceiling)
    for share in (0.35, 0.55):
        at_s = five(share * done_s)
        changes: dict[str, object] = {
            "level": high,
            "overhead": Overhead(kind=spare.kind, thickness_mm=spare.thickness_mm, level=low),
            "move": Move(at_s=at_s, level=low),
            "preheat_min": min(LONGEST_PREHEAT_MIN, c.preheat_min + 15.0),
            "top_element": None,
        }
        yield c.model_copy(update=changes)
        if limits.may_use_top_element:
            # Out before the pizza goes down: it is wanted for the rim alone, for a minute or for all of that time.
            for seconds in sorted({*(s for s in RIM_S if s < at_s), at_s}):
                yield c.model_copy(update=changes | {"top_element": Span(on_s=0.0, off_s=seconds)})
